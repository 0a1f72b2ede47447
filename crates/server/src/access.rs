//! What each operation wants of whoever asks for it: the one table of rights. An operation that is not
//! in it is refused to everybody, and a test walks all of them for every role and for a stranger.

use axum::http::Method;
use std::collections::HashMap;
use utoipa::openapi::{OpenApi, PathItem};
use zf_core::access::Capability;

/// What an operation wants.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Wants {
    /// Nothing: anybody may ask.
    Nothing,
    /// Somebody who is signed in; it is about themselves.
    SignedIn,
    /// Somebody who administers the server.
    Administrator,
    /// A member of the books who has this capability.
    Of(Capability),
}

/// What is wanted, by the identity that the operation has in the OpenAPI document.
pub const TABLE: &[(&str, Wants)] = {
    use Capability as C;
    use Wants::{Administrator, Nothing, Of, SignedIn};
    &[
        ("account_add_factor", SignedIn),
        ("account_change_email", SignedIn),
        ("account_change_password", SignedIn),
        ("account_choose_forms", SignedIn),
        ("account_confirm_factor", SignedIn),
        ("account_end_others", SignedIn),
        ("account_end_session", SignedIn),
        ("account_remove_factor", SignedIn),
        ("account_rename", SignedIn),
        ("account_show", SignedIn),
        ("applications_apply", Of(C::Apply)),
        ("applications_crosswalk", Of(C::See)),
        ("applications_rehearse_undo", Of(C::See)),
        ("applications_show", Of(C::See)),
        ("applications_trial_balances", Of(C::See)),
        ("applications_undo", Of(C::Apply)),
        ("books_create", Administrator),
        ("books_list", SignedIn),
        ("books_summary", Of(C::See)),
        ("cards_follow", Of(C::See)),
        ("cards_lines", Of(C::See)),
        ("cards_show", Of(C::See)),
        ("cards_unfollow", Of(C::See)),
        ("chart_show", Of(C::See)),
        ("files_export", Of(C::Export)),
        ("files_proof", Of(C::Export)),
        ("files_template", SignedIn),
        ("history_preview", Of(C::See)),
        ("imports_agree", Of(C::Import)),
        ("imports_cancel", Of(C::Import)),
        ("imports_choose", Of(C::Import)),
        ("imports_discard", Of(C::Import)),
        ("imports_list", Of(C::See)),
        ("imports_progress", Of(C::See)),
        ("imports_rejected", Of(C::Export)),
        ("imports_roll_back", Of(C::Import)),
        ("imports_rollback_preview", Of(C::See)),
        ("imports_show", Of(C::See)),
        ("imports_stage", Of(C::Stage)),
        ("imports_upload", Of(C::Import)),
        ("items_change", Of(C::Configure)),
        ("items_merge", Of(C::Stage)),
        ("items_read_list", Of(C::Configure)),
        ("items_show", Of(C::See)),
        ("journal_show", Of(C::See)),
        ("links_confirm", Nothing),
        ("links_follow", Nothing),
        ("links_forgot", Nothing),
        ("links_look", Nothing),
        ("members_add", Of(C::ManageMembers)),
        ("members_list", Of(C::See)),
        ("members_remove", Of(C::ManageMembers)),
        ("members_withdraw", Of(C::ManageMembers)),
        ("merging_show", Of(C::See)),
        ("numbering_copy", Of(C::Stage)),
        ("numbering_place", Of(C::See)),
        ("numbering_preview", Of(C::See)),
        ("outbox_list", Administrator),
        ("people_administer", Administrator),
        ("people_give_books", Administrator),
        ("people_invite", Administrator),
        ("people_list", Administrator),
        ("people_make_link", Administrator),
        ("people_remove", Administrator),
        ("people_remove_factor", Administrator),
        ("people_withdraw", Administrator),
        ("plans_add_account", Of(C::Stage)),
        ("plans_create", Of(C::Stage)),
        ("plans_crosswalk", Of(C::SeePlan)),
        ("plans_discard", Of(C::Stage)),
        ("plans_edit", Of(C::Stage)),
        ("plans_list", Of(C::See)),
        ("plans_override_stop", Of(C::Override)),
        ("plans_rename", Of(C::Stage)),
        ("plans_show", Of(C::SeePlan)),
        ("plans_step", Of(C::Stage)),
        ("plans_trial_balances", Of(C::SeePlan)),
        ("reports_file", Of(C::Export)),
        ("reports_months", Of(C::See)),
        ("reports_statements", Of(C::See)),
        ("reports_trial_balance", Of(C::See)),
        ("review_dismiss", Of(C::Comment)),
        ("review_forget_dismissed", Of(C::Comment)),
        ("review_mark_not_duplicates", Of(C::Comment)),
        ("review_show", Of(C::See)),
        ("review_unmark_not_duplicates", Of(C::Comment)),
        ("scheme_set", Of(C::Configure)),
        ("scheme_show", Of(C::See)),
        ("server_trail_file", Administrator),
        ("server_trail_list", Administrator),
        ("session_sign_in", Nothing),
        ("session_sign_out", Nothing),
        ("session_who", SignedIn),
        ("settings_archive", Of(C::Dispose)),
        ("settings_change", Of(C::Configure)),
        ("settings_delete", Of(C::Dispose)),
        ("settings_lock", Of(C::Lock)),
        ("settings_preview", Of(C::See)),
        ("settings_show", Of(C::See)),
        ("settings_unlock", Of(C::Unlock)),
        ("trail_file", Of(C::Export)),
        ("trail_list", Of(C::See)),
    ]
};

/// What an operation wants; `None` of one that is not in the table.
pub fn wants(operation: &str) -> Option<Wants> {
    TABLE.iter().find(|(known, _)| *known == operation).map(|(_, wants)| *wants)
}

/// What is wanted at each address.
#[derive(Clone, Debug, Default)]
pub(crate) struct Operations(HashMap<(Method, String), Option<Wants>>);

impl Operations {
    /// The operations of all operations of a document.
    pub(crate) fn of(document: &OpenApi) -> Self {
        let mut wanted_by = HashMap::new();
        for (path, item) in &document.paths.paths {
            for (method, operation) in operations(item) {
                let Some(operation) = operation else { continue };
                let wanted = operation.operation_id.as_deref().and_then(wants);
                wanted_by.insert((method, path.clone()), wanted);
            }
        }
        Self(wanted_by)
    }

    /// What is wanted there: `None` where there is no such operation, and `Some(None)` of one that has
    /// no place in the table. A head is asked for as the whole is.
    pub(crate) fn at(&self, method: &Method, path: &str) -> Option<Option<Wants>> {
        let method = if *method == Method::HEAD { Method::GET } else { method.clone() };
        self.0.get(&(method, path.to_owned())).copied()
    }
}

fn operations(item: &PathItem) -> [(Method, Option<&utoipa::openapi::path::Operation>); 4] {
    [
        (Method::GET, item.get.as_ref()),
        (Method::POST, item.post.as_ref()),
        (Method::PUT, item.put.as_ref()),
        (Method::DELETE, item.delete.as_ref()),
    ]
}

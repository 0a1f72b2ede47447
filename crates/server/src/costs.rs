//! What the work of each operation grows with, and where it ends: the one table of costs. Work that may take
//! longer than a blink (50 ms) is never done on the threads that serve. A test fails when an operation has
//! no place here.

/// What the work of an operation grows with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Grows {
    /// With nothing: a few rows are found by their keys.
    Nothing,
    /// With nothing: a page of rows, of a fixed size.
    Page,
    /// With the chart, its totals and what is staged, which no request makes larger. It is worked out once
    /// for a revision, off the threads that serve.
    Chart,
    /// With what is sent, of which there may be so many.
    Sent(&'static str, usize),
    /// With the lines of the journal: read on the few connections that are kept for that, with others in
    /// line, and no further once nobody waits.
    Lines,
    /// With a file: within the limits of the readers, by a job, one large file at a time.
    File,
    /// With nothing: one password, off the threads that serve, four at once.
    Password,
}

/// What is sent at most, where the door sets the only limit: the largest form and the longest list.
const AS_THE_DOOR_SAYS: Grows = Grows::Sent("things in a list", crate::extract::MOST);

/// What the work of each operation grows with, by the identity that the operation has in the OpenAPI document.
pub const TABLE: &[(&str, Grows)] = {
    use Grows::{Chart, File, Lines, Nothing, Page, Password, Sent};
    &[
        ("account_add_factor", Password),
        ("account_change_email", Password),
        ("account_change_password", Password),
        ("account_choose_forms", Nothing),
        ("account_confirm_factor", Nothing),
        ("account_end_others", Nothing),
        ("account_end_session", Nothing),
        ("account_remove_factor", Password),
        ("account_rename", Nothing),
        ("account_show", Nothing),
        ("applications_apply", Chart),
        ("applications_crosswalk", Page),
        ("applications_rehearse_undo", Chart),
        ("applications_show", Chart),
        ("applications_trial_balances", Page),
        ("applications_undo", Chart),
        ("books_create", Nothing),
        ("books_list", Nothing),
        ("books_summary", Chart),
        ("cards_follow", Nothing),
        ("cards_lines", Page),
        ("cards_show", Chart),
        ("cards_unfollow", Nothing),
        ("chart_show", Chart),
        ("files_export", Lines),
        ("files_proof", Chart),
        ("files_template", Nothing),
        ("history_preview", Sent("parts of a history", zf_core::history::MOST_PARTS)),
        ("imports_agree", File),
        ("imports_cancel", Nothing),
        ("imports_choose", File),
        ("imports_discard", Nothing),
        ("imports_list", Page),
        ("imports_progress", Nothing),
        ("imports_rejected", File),
        ("imports_roll_back", File),
        ("imports_rollback_preview", File),
        ("imports_show", File),
        ("imports_stage", File),
        ("imports_upload", File),
        ("items_change", AS_THE_DOOR_SAYS),
        ("items_merge", AS_THE_DOOR_SAYS),
        ("items_read_list", AS_THE_DOOR_SAYS),
        ("items_show", Chart),
        ("journal_show", Page),
        ("links_confirm", Nothing),
        ("links_follow", Password),
        ("links_forgot", Nothing),
        ("links_look", Nothing),
        ("members_add", Nothing),
        ("members_list", Nothing),
        ("members_remove", Nothing),
        ("members_withdraw", Nothing),
        ("merging_show", Sent("accounts side by side", crate::actions::merging::MOST)),
        ("numbering_copy", Chart),
        ("numbering_place", Chart),
        ("numbering_preview", Sent("characters of a part of a code", zf_core::code::MAX_CODE)),
        ("outbox_list", Page),
        ("people_administer", Nothing),
        ("people_give_books", Nothing),
        ("people_invite", Nothing),
        ("people_list", Nothing),
        ("people_make_link", Nothing),
        ("people_remove", Nothing),
        ("people_remove_factor", Nothing),
        ("people_withdraw", Nothing),
        ("plans_add_account", Chart),
        ("plans_create", Nothing),
        ("plans_crosswalk", Page),
        ("plans_discard", Nothing),
        ("plans_edit", AS_THE_DOOR_SAYS),
        ("plans_list", Nothing),
        ("plans_override_stop", Nothing),
        ("plans_rename", Nothing),
        ("plans_show", Chart),
        ("plans_step", Chart),
        ("plans_trial_balances", Page),
        ("reports_file", Chart),
        ("reports_months", Chart),
        ("reports_statements", Chart),
        ("reports_trial_balance", Chart),
        ("review_dismiss", Nothing),
        ("review_forget_dismissed", Nothing),
        ("review_mark_not_duplicates", AS_THE_DOOR_SAYS),
        ("review_show", Chart),
        ("review_unmark_not_duplicates", Nothing),
        ("scheme_set", AS_THE_DOOR_SAYS),
        ("scheme_show", Chart),
        ("server_trail_file", Lines),
        ("server_trail_list", Page),
        ("session_sign_in", Password),
        ("session_sign_out", Nothing),
        ("session_who", Nothing),
        ("settings_archive", Nothing),
        ("settings_change", Nothing),
        ("settings_delete", Lines),
        ("settings_lock", Nothing),
        ("settings_preview", Chart),
        ("settings_show", Nothing),
        ("settings_unlock", Nothing),
        ("trail_file", Lines),
        ("trail_list", Page),
    ]
};

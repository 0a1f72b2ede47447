//! What can go wrong: the codes of problems, and what they are about.

use serde::{Deserialize, Serialize};
use zf_core::keyed;
use zf_core::plan::{Change, Field};

keyed! {
    /// What kind of problem it is. A client may rely on it; sentences may change.
    ProblemCode {
        /// From a page of another site.
        AnotherSite = "another_site", "the request comes from a page of another site";
        /// The books are held.
        Busy = "busy", "somebody else holds the books or the plan; try again";
        /// Balances cannot open the books.
        CannotOpen = "cannot_open", "the balances cannot open the books on that day";
        /// There are cautions that were not acknowledged.
        CautionsUnread = "cautions_unread", "cautions were not acknowledged; `findings` holds them";
        /// The rehearsal that was agreed to is no longer true.
        ChangedSince = "changed_since", "the books or the plan changed since the rehearsal that was agreed to";
        /// A second factor is asked for.
        CodeWanted = "code_wanted", "a code of the second factor is asked for";
        /// Others read as much.
        Crowded = "crowded", "many long lists are read just now; try again in a minute";
        /// The database cannot be reached, or all connections to it are in use.
        DatabaseAway = "database_away", "the database is away or too busy; nothing was done";
        /// Somebody else was first.
        EditConflict = "edit_conflict", "somebody else was first in a field; `conflicts` holds both";
        /// Fields cannot be taken.
        FieldsRefused = "fields_refused", "fields cannot be taken; `refused` says which and why";
        /// The file cannot be read.
        FileUnreadable = "file_unreadable", "the file cannot be read as what it says it is";
        /// Servers stopped twice while they were at it.
        GivenUp = "given_up", "the server stopped twice while it worked on this; nothing was stored";
        /// A fault of the program.
        Internal = "internal", "a fault of the program; the log knows it by `request`";
        /// A letter cannot be sent.
        LetterNotSent = "letter_not_sent", "the letter could not be sent";
        /// The request cannot be read.
        Malformed = "malformed", "the request cannot be read";
        /// The address does not take that.
        NotAllowed = "not_allowed", "this address does not take that";
        /// There is no such thing.
        NotFound = "not_found", "there is no such thing, or one may not see it";
        /// The request is no JSON.
        NotJson = "not_json", "the request is not sent as JSON";
        /// No row of headings was found.
        NotLaidOut = "not_laid_out", "no sheet of the file is laid out as such a file";
        /// What was read back is not what was predicted.
        NotProved = "not_proved", "what was read back is not what was predicted; nothing was kept";
        /// It cannot be staged.
        NotStaged = "not_staged", "a file of this kind is not staged in a plan";
        /// It cannot be stored.
        NotStored = "not_stored", "a file of this kind is staged in a plan, not stored";
        /// No row is ready.
        NothingReady = "nothing_ready", "no row of the file can be stored";
        /// The plan changes nothing.
        NothingToApply = "nothing_to_apply", "the plan changes nothing";
        /// Nothing is left to be staged.
        NothingToStage = "nothing_to_stage", "nothing of the file is to be staged";
        /// The roles do not allow it.
        NotYours = "not_yours", "one's roles do not allow it";
        /// It is not known whether it was done.
        OutcomeUnknown = "outcome_unknown", "the database was lost in the middle; look whether it was done";
        /// The plan was applied or discarded.
        PlanEnded = "plan_ended", "the plan was applied or discarded";
        /// It cannot be done as things stand.
        Refused = "refused", "it cannot be done as things stand";
        /// Rows are rejected.
        RowsRejected = "rows_rejected", "rows are rejected and were not left out by choice";
        /// Nobody is signed in.
        SignedOut = "signed_out", "nobody is signed in";
        /// Stops block it.
        Stopped = "stopped", "stops block it; `findings` holds them";
        /// Somebody stopped it.
        StoppedByHand = "stopped_by_hand", "somebody stopped it; nothing was stored";
        /// The same lines are there already.
        StoredBefore = "stored_before", "the same lines were stored before";
        /// The books changed while the file waited.
        StoredMeanwhile = "stored_meanwhile", "something else was stored since the file was looked at";
        /// The list is too long for the format.
        TooLong = "too_long", "there are more rows than the format holds";
        /// Too much was sent.
        TooLarge = "too_large", "more was sent than is taken";
        /// Too many tries to sign in.
        TooManyTries = "too_many_tries", "too many tries to sign in; wait";
        /// What was sent did not come in time.
        TooSlow = "too_slow", "the request did not come in time; nothing was done";
        /// The answer took too long.
        TookTooLong = "took_too_long", "the answer took too long; look whether it was done";
        /// The file cannot be stored.
        Unstorable = "unstorable", "a value is larger than can be stored";
        /// The file is too large.
        UploadTooLarge = "upload_too_large", "the file is larger than is taken";
        /// The file did not arrive whole.
        UploadUnreadable = "upload_unreadable", "the file did not arrive whole";
        /// A code of a second factor is wrong.
        WrongCode = "wrong_code", "the code of the second factor is wrong, used or too old";
        /// E-mail and password do not belong together.
        WrongSignIn = "wrong_sign_in", "e-mail and password do not belong together";
    }
}

/// A field in which somebody else was first.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct ConflictView {
    /// The account.
    pub account: i64,
    /// The field.
    pub field: Field,
    /// What one wanted; none to take the change back.
    pub mine: Option<Change>,
    /// What is staged now; none when it was taken back.
    pub theirs: Option<Change>,
    /// By whom.
    pub by: Option<String>,
    /// What stands there today.
    pub today: Option<Change>,
    /// The same in words.
    pub texts: ConflictTexts,
}

/// Mine, theirs and today in words.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct ConflictTexts {
    pub mine: Option<String>,
    pub theirs: Option<String>,
    pub today: Option<String>,
}

/// A problem as it is kept with a job that failed.
#[derive(Debug, Serialize, Deserialize)]
pub struct JobProblem {
    pub status: u16,
    pub code: ProblemCode,
    pub detail: String,
    #[serde(default)]
    pub refused: Vec<RefusedField>,
}

/// A field that cannot be taken.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct RefusedField {
    /// The account, if it is about one.
    pub account: Option<i64>,
    /// The field.
    pub field: String,
    /// Why.
    pub reason: String,
}

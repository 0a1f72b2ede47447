// What can have been done, in the order in which one looks for it.
import type { Schemas } from '../api/client';

type TrailAction = NonNullable<Schemas['TrailView']['action']>;
type Listed = readonly (readonly [TrailAction, string])[];

/** To a set of books. */
export const OF_BOOKS: Listed = [
  ['applied', 'applied a plan'],
  ['undid', 'undid a plan'],
  ['overrode', 'overrode a stop'],
  ['imported', 'imported a file'],
  ['staged', 'staged a file'],
  ['took_back', 'rolled back a file'],
  ['dismissed', 'dismissed a remark'],
  ['told_apart', 'marked accounts as no duplicates'],
  ['locked', 'locked'],
  ['unlocked', 'unlocked'],
  ['changed_lines', 'changed statement items'],
  ['laid_down_scheme', 'set a numbering scheme'],
  ['changed_policy', 'changed the policy'],
  ['changed_as_of', 'changed the as-of date'],
  ['changed_year', 'changed the fiscal year'],
  ['changed_currency', 'changed the currency'],
  ['changed_usage', 'changed what is known of uses'],
  ['changed_journal', 'changed from when the journal is complete'],
  ['renamed_books', 'renamed the books'],
  ['let_in', 'added a member'],
  ['changed_roles', 'changed roles'],
  ['let_out', 'removed a member'],
  ['invited', 'invited somebody'],
  ['withdrew_invitation', 'withdrew an invitation'],
  ['opened_books', 'opened the books'],
  ['put_away', 'archived the books'],
  ['took_up', 'restored the books'],
];

/** To the server. */
export const OF_SERVER: Listed = [
  ['signed_in', 'signed in'],
  ['failed_sign_in', 'failed to sign in'],
  ['signed_out', 'signed out'],
  ['ended_sessions', 'ended sessions'],
  ['changed_password', 'changed a password'],
  ['asked_for_password', 'asked for a new password'],
  ['added_factor', 'added a second factor'],
  ['removed_factor', 'removed a second factor'],
  ['used_recovery_code', 'used a recovery code'],
  ['changed_name', 'changed a name'],
  ['changed_email', 'changed an e-mail address'],
  ['invited', 'invited somebody'],
  ['withdrew_invitation', 'withdrew an invitation'],
  ['joined', 'joined'],
  ['added_person', 'added somebody'],
  ['removed_person', 'removed somebody'],
  ['made_administrator', 'made an administrator'],
  ['made_ordinary', 'ended an administration'],
  ['opened_books', 'opened books'],
  ['deleted_books', 'deleted books'],
];

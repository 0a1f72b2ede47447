-- Somebody who was removed cannot sign in any more; the trail keeps their name.
ALTER TABLE person ADD COLUMN removed_at timestamptz;

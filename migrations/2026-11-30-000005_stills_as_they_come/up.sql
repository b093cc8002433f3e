-- The picture of a still so far, small, while it is being taken.
ALTER TABLE stills ADD COLUMN draft BYTEA;
-- How often it came anew.
ALTER TABLE stills ADD COLUMN drafts INTEGER NOT NULL DEFAULT 0;
-- Seconds that are likely left of a job, from how quickly its worker gets on.
ALTER TABLE jobs ADD COLUMN left_s REAL;

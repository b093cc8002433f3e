-- A scene's document is the state after edit `document_seq`; the log leads from there to `seq`. `history` is what can be taken
-- back at that point, by author.
ALTER TABLE scenes
    ADD COLUMN name TEXT NOT NULL DEFAULT '',
    ADD COLUMN document_seq BIGINT NOT NULL DEFAULT 0,
    ADD COLUMN history JSONB,
    ADD COLUMN deleted_at TIMESTAMPTZ;
UPDATE scenes SET document_seq = seq, name = coalesce(document ->> 'name', '');

-- Entries carry who made them, the first number they stand for (the values of one drag are one entry), the layout their
-- commands are written in, what they touch, and the command that their inverse is itself taken back by.
ALTER TABLE scene_edits
    ADD COLUMN author TEXT NOT NULL DEFAULT '',
    ADD COLUMN since BIGINT,
    ADD COLUMN layout INTEGER NOT NULL DEFAULT 1,
    ADD COLUMN touches TEXT[] NOT NULL DEFAULT '{}',
    ADD COLUMN forward JSONB;
UPDATE scene_edits SET since = seq;
ALTER TABLE scene_edits ALTER COLUMN since SET NOT NULL;

-- What each request was answered, by the id its sender gave it, so that one sent again is not carried out again.
CREATE TABLE edit_answers (
    scene_id UUID NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    request_id UUID NOT NULL,
    -- The edit it became; none where it changed nothing or was refused.
    seq BIGINT,
    -- Why it was refused: status, code and message.
    refusal JSONB,
    made_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    PRIMARY KEY (scene_id, request_id)
);
CREATE INDEX edit_answers_by_age ON edit_answers (made_at);

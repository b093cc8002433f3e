DROP TABLE edit_answers;
ALTER TABLE scene_edits DROP COLUMN author, DROP COLUMN since, DROP COLUMN layout, DROP COLUMN touches, DROP COLUMN forward;
ALTER TABLE scenes DROP COLUMN name, DROP COLUMN document_seq, DROP COLUMN history, DROP COLUMN deleted_at;

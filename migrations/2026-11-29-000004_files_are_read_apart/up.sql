-- As what a file was read without harm, by a process of its own; the server itself reads it only as that.
ALTER TABLE blobs ADD COLUMN read_as TEXT[] NOT NULL DEFAULT '{}';

DROP TABLE stills;
DROP TABLE jobs;
DROP TABLE scene_edits;
DROP TABLE scenes;
DROP TABLE blobs;

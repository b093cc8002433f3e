DROP TABLE communities;

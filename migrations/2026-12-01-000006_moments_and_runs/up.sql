-- The moment a still shows, seconds; none for one at rest.
ALTER TABLE stills ADD COLUMN time_s DOUBLE PRECISION;
-- What is asked for one by one goes before what is asked for by the hundred.
ALTER TABLE jobs ADD COLUMN rank SMALLINT NOT NULL DEFAULT 0;

-- Runs of frames. The document is kept once for all of them.
CREATE TABLE runs (
    id UUID PRIMARY KEY,
    scene_id UUID NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    shot_name TEXT NOT NULL,
    shot JSONB NOT NULL,
    document JSONB NOT NULL,
    seq BIGINT NOT NULL,
    width_px INTEGER NOT NULL,
    height_px INTEGER NOT NULL,
    samples INTEGER NOT NULL,
    first INTEGER NOT NULL,
    last INTEGER NOT NULL,
    frame_rate REAL NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now()
);
CREATE INDEX runs_of_scene ON runs (scene_id, created_at);

-- Each frame is a job of its own, taken again by another when its worker is lost.
CREATE TABLE frames (
    run_id UUID NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
    nth INTEGER NOT NULL,
    job_id UUID NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    picture TEXT REFERENCES blobs (id),
    seconds REAL,
    PRIMARY KEY (run_id, nth)
);
CREATE INDEX frames_of_job ON frames (job_id);

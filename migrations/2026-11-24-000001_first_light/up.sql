-- Files by the SHA-256 of their bytes: uploads and finished pictures.
CREATE TABLE blobs (
    id TEXT PRIMARY KEY,
    media TEXT NOT NULL,
    bytes BYTEA NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now()
);

-- A scene is one document; `seq` is the number of the last edit that went into it.
CREATE TABLE scenes (
    id UUID PRIMARY KEY,
    document JSONB NOT NULL,
    seq BIGINT NOT NULL DEFAULT 0,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now()
);

-- The log. An undo or a redo is an entry like any other; `target` is the last edit of the gesture it moves.
CREATE TABLE scene_edits (
    scene_id UUID NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    seq BIGINT NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('do', 'undo', 'redo')),
    target BIGINT,
    gesture TEXT,
    command JSONB NOT NULL,
    inverse JSONB NOT NULL,
    made_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    PRIMARY KEY (scene_id, seq),
    CHECK ((kind = 'do') = (target IS NULL))
);

-- Work for any worker. A worker holds a job until `leased_until` and renews it; after that another may take it.
CREATE TABLE jobs (
    id UUID PRIMARY KEY,
    scene_id UUID NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    plan JSONB NOT NULL,
    state TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'working', 'done', 'failed', 'stopped')),
    progress REAL NOT NULL DEFAULT 0,
    message TEXT,
    attempts INTEGER NOT NULL DEFAULT 0,
    worker TEXT,
    leased_until TIMESTAMPTZ,
    stop_asked BOOLEAN NOT NULL DEFAULT false,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now()
);
CREATE INDEX jobs_open ON jobs (created_at) WHERE state IN ('waiting', 'working');

-- The contact sheet. The whole document is kept, so that two stills can tell what changed between them.
CREATE TABLE stills (
    id UUID PRIMARY KEY,
    scene_id UUID NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    job_id UUID NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    shot_name TEXT NOT NULL,
    document JSONB NOT NULL,
    seq BIGINT NOT NULL,
    width_px INTEGER NOT NULL,
    height_px INTEGER NOT NULL,
    samples INTEGER NOT NULL,
    picture TEXT REFERENCES blobs (id),
    seconds REAL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now()
);
CREATE INDEX stills_of_scene ON stills (scene_id, created_at);

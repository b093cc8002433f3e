-- Communities and sets of species that were kept for other scenes. `body` is a core `Community`.
CREATE TABLE communities (
    id UUID PRIMARY KEY,
    body JSONB NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now()
);

//! The tables, as `migrations/` makes them.

diesel::table! {
    blobs (id) {
        id -> Text,
        media -> Text,
        bytes -> Binary,
        created_at -> Timestamptz,
        read_as -> Array<Text>,
    }
}

diesel::table! {
    communities (id) {
        id -> Uuid,
        body -> Jsonb,
        created_at -> Timestamptz,
    }
}

diesel::table! {
    scenes (id) {
        id -> Uuid,
        document -> Jsonb,
        seq -> BigInt,
        created_at -> Timestamptz,
        updated_at -> Timestamptz,
        name -> Text,
        document_seq -> BigInt,
        history -> Nullable<Jsonb>,
        deleted_at -> Nullable<Timestamptz>,
    }
}

diesel::table! {
    edit_answers (scene_id, request_id) {
        scene_id -> Uuid,
        request_id -> Uuid,
        seq -> Nullable<BigInt>,
        refusal -> Nullable<Jsonb>,
        made_at -> Timestamptz,
    }
}

diesel::table! {
    scene_edits (scene_id, seq) {
        scene_id -> Uuid,
        seq -> BigInt,
        kind -> Text,
        target -> Nullable<BigInt>,
        gesture -> Nullable<Text>,
        command -> Jsonb,
        inverse -> Jsonb,
        made_at -> Timestamptz,
        author -> Text,
        since -> BigInt,
        layout -> Integer,
        touches -> Array<Text>,
        forward -> Nullable<Jsonb>,
    }
}

diesel::table! {
    jobs (id) {
        id -> Uuid,
        scene_id -> Uuid,
        plan -> Jsonb,
        state -> Text,
        progress -> Float,
        message -> Nullable<Text>,
        attempts -> Integer,
        worker -> Nullable<Text>,
        leased_until -> Nullable<Timestamptz>,
        stop_asked -> Bool,
        created_at -> Timestamptz,
        updated_at -> Timestamptz,
        left_s -> Nullable<Float>,
        rank -> SmallInt,
    }
}

diesel::table! {
    stills (id) {
        id -> Uuid,
        scene_id -> Uuid,
        job_id -> Uuid,
        shot_name -> Text,
        document -> Jsonb,
        seq -> BigInt,
        width_px -> Integer,
        height_px -> Integer,
        samples -> Integer,
        picture -> Nullable<Text>,
        seconds -> Nullable<Float>,
        created_at -> Timestamptz,
        draft -> Nullable<Bytea>,
        drafts -> Integer,
        time_s -> Nullable<Double>,
    }
}

diesel::table! {
    runs (id) {
        id -> Uuid,
        scene_id -> Uuid,
        shot_name -> Text,
        shot -> Jsonb,
        document -> Jsonb,
        seq -> BigInt,
        width_px -> Integer,
        height_px -> Integer,
        samples -> Integer,
        first -> Integer,
        last -> Integer,
        frame_rate -> Float,
        created_at -> Timestamptz,
    }
}

diesel::table! {
    frames (run_id, nth) {
        run_id -> Uuid,
        nth -> Integer,
        job_id -> Uuid,
        picture -> Nullable<Text>,
        seconds -> Nullable<Float>,
    }
}

diesel::allow_tables_to_appear_in_same_query!(blobs, scenes, scene_edits, jobs, stills, runs, frames);
diesel::joinable!(stills -> jobs (job_id));
diesel::joinable!(frames -> jobs (job_id));
diesel::joinable!(frames -> runs (run_id));

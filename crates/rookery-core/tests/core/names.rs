//! Names of derived data: an edit keeps those of what it left as it was, and they are the same however a document came about.

use crate::common::{every_command, full_scene};
use proptest::prelude::*;
use rookery_core::scene::*;

/// All names that are given of a document.
fn names(d: &Keyed) -> Vec<(String, Option<ContentKey>)> {
    let mut out = vec![("land".to_owned(), Some(d.land_key()))];
    out.extend(d.grounds.iter().map(|g| (format!("ground {}", g.id.0), d.ground_key(g.id))));
    out.extend(d.obstacles.iter().map(|o| (format!("obstacle {}", o.id.0), Some(d.obstacle_key(o)))));
    for l in &d.layers {
        let name = |what: &str| format!("{what} of {}", l.name);
        out.push((name("all"), Some(d.layer_key(l))));
        out.push((name("fits"), d.fits_key(l)));
        for id in d.grounds_of(l) {
            out.push((name(&format!("rest on {}", id.0)), d.plants_key_but_for_what_is_around(l, id)));
            out.push((name(&format!("plants on {}", id.0)), d.plants_key(l, id)));
        }
    }
    out
}

#[test]
fn names_are_the_same_however_a_document_came_about() {
    let scene = full_scene();
    let before = Keyed::new(scene.clone());
    names(&before);
    for command in every_command(&scene) {
        let done = apply(&scene, &command).unwrap();
        let after = before.after(done.document.clone());
        assert_eq!(names(&after), names(&Keyed::new(done.document.clone())), "{command:?}");
        let back = apply(&done.document, &done.inverse).unwrap();
        assert_eq!(names(&after.after(back.document)), names(&before), "{command:?}, taken back");
    }
}

#[test]
fn who_yields_to_whom_is_the_same_however_a_document_came_about() {
    let scene = full_scene();
    let before = Keyed::new(scene.clone());
    for command in every_command(&scene) {
        let done = apply(&scene, &command).unwrap().document;
        assert_eq!(*before.after(done.clone()).claims(), done.claims(), "{command:?}");
        for layer in &done.layers {
            let after = before.after(done.clone());
            assert_eq!(after.grows_after(layer.id), done.grows_after(layer.id), "{command:?}");
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn names_are_the_same_after_many_edits(picks in prop::collection::vec(0_usize..1000, 1..12)) {
        let mut now = Keyed::new(full_scene());
        let commands = every_command(&now);
        for pick in picks {
            // Some ask for what earlier ones took away.
            let Ok(done) = apply(&now, &commands[pick % commands.len()]) else { continue };
            names(&now);
            now = now.after(done.document);
        }
        prop_assert_eq!(names(&now), names(&Keyed::new(now.document().clone())));
    }
}

/// What moves changes nothing that grows: not the wind, not a blower or a body, not how a species answers them.
#[test]
fn what_moves_leaves_every_name_as_it_was() {
    let scene = full_scene();
    let before = names(&Keyed::new(scene.clone()));
    let mut marram = scene.species.iter().find(|s| s.id.0 == "marram").expect("it is its own").clone();
    marram.sways = Some(rookery_core::nursery::Sways { stiffness: 3.0, ..marram.sways_as() });
    let commands = [
        Command::EditMotion { edit: MotionEdit::Speed { value: 17.0 } },
        Command::RemoveBlower { id: BlowerId(1) },
        Command::RemoveBody { id: BodyId(1) },
        Command::PutSpecies { value: Box::new(marram), place: None },
    ];
    for command in commands {
        let moved = apply(&scene, &command).unwrap().document;
        assert_ne!(moved, scene);
        assert_eq!(names(&Keyed::new(moved)), before, "{command:?}");
    }
}

//! Settings in common: one change for all, taken back and done again exactly, parted with what each has.

use rookery_core::scene::*;

fn share(settings: SharedSettings, layers: &[u32]) -> Command {
    let layers = layers.iter().map(|id| LayerId(*id)).collect();
    Command::PutShare { value: Share { id: ShareId(1), settings, layers }, place: None }
}

fn edit(id: u32, edit: LayerEdit) -> Command {
    Command::EditLayer { id: LayerId(id), edit }
}

/// Applies a command, takes it back and does it again.
fn there_and_back(document: &Document, command: &Command) -> Document {
    let done = apply(document, command).unwrap();
    let undone = apply(&done.document, &done.inverse).unwrap();
    assert_eq!(undone.document, *document, "taken back");
    let again = apply(&undone.document, &undone.inverse).unwrap();
    assert_eq!(again.document, done.document, "done again");
    // And once more, as an artist goes back and forth.
    assert_eq!(apply(&again.document, &again.inverse).unwrap().document, *document);
    done.document
}

#[test]
fn a_share_takes_over_from_its_first_layer_and_every_edit_counts_for_all() {
    let document = kittiwake_head();
    let before = document.layer(LayerId(1)).unwrap().stance;
    let shared = there_and_back(&document, &share(SharedSettings::Stance, &[1, 7, 8]));
    for id in [1, 7, 8] {
        assert_eq!(shared.layer(LayerId(id)).unwrap().stance, before);
    }
    let tilted = there_and_back(&shared, &edit(7, LayerEdit::Tilt { value: 11.0 }));
    assert!([1, 7, 8].iter().all(|id| tilted.layer(LayerId(*id)).unwrap().stance.tilt_deg == 11.0));
    // What they do not share stays each one's own.
    let amount = Amount::PerM2 { value: 0.5 };
    let fewer = there_and_back(&tilted, &edit(7, LayerEdit::Amount { value: amount }));
    assert_eq!(fewer.layer(LayerId(7)).unwrap().amount, amount);
    assert_eq!(fewer.layer(LayerId(1)).unwrap().amount, document.layer(LayerId(1)).unwrap().amount);
    let parted = there_and_back(&fewer, &Command::RemoveShare { id: ShareId(1) });
    let alone = there_and_back(&parted, &edit(7, LayerEdit::Tilt { value: 3.0 }));
    assert_eq!(alone.layer(LayerId(1)).unwrap().stance.tilt_deg, 11.0);
    assert!(check_document(&alone).is_ok());
}

#[test]
fn a_locked_layer_of_a_share_refuses_for_all() {
    let shared = apply(&kittiwake_head(), &share(SharedSettings::Masks, &[1, 7])).unwrap().document;
    let locked = apply(&shared, &edit(7, LayerEdit::Locked { value: true })).unwrap().document;
    let whole = Command::RestoreLayer { layer: shared.layer(LayerId(7)).unwrap().clone() };
    assert!(matches!(apply(&locked, &whole), Err(Refusal::Locked { .. })));
    let masks = LayerEdit::Masks { value: Vec::new() };
    assert!(matches!(apply(&locked, &edit(1, masks.clone())), Err(Refusal::Locked { .. })));
    let bare = there_and_back(&shared, &edit(1, masks));
    assert!([1, 7].iter().all(|id| bare.layer(LayerId(*id)).unwrap().masks.is_empty()));
}

#[test]
fn no_layer_shares_the_same_settings_twice() {
    let shared = apply(&kittiwake_head(), &share(SharedSettings::Amount, &[1, 7])).unwrap().document;
    let value =
        Share { id: ShareId(2), settings: SharedSettings::Amount, layers: vec![LayerId(7), LayerId(8)] };
    let again = apply(&shared, &Command::PutShare { value: value.clone(), place: None });
    assert_eq!(again, Err(Refusal::SharedTwice { id: 7 }));
    let lone = Share { layers: vec![LayerId(8)], ..value.clone() };
    assert!(apply(&shared, &Command::PutShare { value: lone, place: None }).is_err());
    let other = Share { settings: SharedSettings::Stance, ..value };
    assert!(apply(&shared, &Command::PutShare { value: other, place: None }).is_ok());
}

#[test]
fn another_version_of_a_layer_keeps_its_name_and_goes_back_exactly() {
    let document = apply(&kittiwake_head(), &share(SharedSettings::Stance, &[1, 7])).unwrap().document;
    let mut other = document.layer(LayerId(1)).unwrap().clone();
    other.name = "Kept".into();
    (other.seed, other.amount, other.stance.tilt_deg) = (99, Amount::Total { value: 40 }, 2.0);
    let replaced = there_and_back(&document, &Command::ReplaceLayer { layer: other });
    let now = replaced.layer(LayerId(1)).unwrap();
    assert_eq!((now.name.as_str(), now.seed), ("Marram", 99));
    assert_eq!(replaced.layer(LayerId(7)).unwrap().stance.tilt_deg, 2.0, "what it shares goes along");
}

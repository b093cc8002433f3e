//! Every command can be taken back exactly, and a refused one changes nothing.

use proptest::prelude::*;
use rookery_core::scene::*;

fn response() -> impl Strategy<Value = Response> {
    (proptest::array::uniform4(-5.0_f32..95.0), any::<bool>()).prop_map(|(ends, inverted)| {
        let [start, full_from, full_to, end] = ends;
        Response { start, full_from, full_to, end, inverted }
    })
}

fn layer_edit() -> impl Strategy<Value = LayerEdit> {
    let range = (-1.0_f32..4.0, -1.0_f32..4.0).prop_map(|(min, max)| Range { min, max });
    prop_oneof![
        "[ a-z]{0,12}".prop_map(|value| LayerEdit::Name { value }),
        prop_oneof![Just("marram"), Just("boulder"), Just("moonflower")]
            .prop_map(|s| LayerEdit::Species { value: SpeciesId(s.to_owned()) }),
        any::<bool>().prop_map(|value| LayerEdit::Visible { value }),
        any::<bool>().prop_map(|value| LayerEdit::Locked { value }),
        any::<u32>().prop_map(|value| LayerEdit::Seed { value }),
        proptest::collection::vec(0_u32..9, 0..4).prop_map(|value| LayerEdit::KeptSeeds { value }),
        (-10.0_f32..1100.0).prop_map(|value| LayerEdit::Amount { value: Amount::PerM2 { value } }),
        any::<u32>().prop_map(|value| LayerEdit::Cap { value }),
        (0_u32..4, response()).prop_map(|(id, response)| LayerEdit::Mask {
            value: Mask { response, ..Mask::band(MaskId(id), Quantity::Slope, [0.0; 4]) },
        }),
        range.prop_map(|value| LayerEdit::Size { value }),
        (-10.0_f32..200.0).prop_map(|value| LayerEdit::Tilt { value }),
        Just(LayerEdit::Tilt { value: f32::NAN }),
        (-20.0_f32..20.0).prop_map(|value| LayerEdit::Sink { value }),
    ]
}

fn stroke() -> impl Strategy<Value = Stroke> {
    let tool = prop_oneof![Just(SculptTool::Raise), Just(SculptTool::Flatten)];
    let points = proptest::collection::vec(proptest::array::uniform2(-200.0_f32..200.0), 0..5);
    (0_u32..4, tool, 0.0_f32..30.0, -0.5_f32..2.0, points).prop_map(
        |(id, tool, radius_m, strength, points)| Stroke {
            id: StrokeId(id),
            tool,
            radius_m,
            strength,
            falloff: 0.5,
            points,
        },
    )
}

fn outline() -> impl Strategy<Value = Outline> {
    let kind = prop_oneof![Just(OutlineKind::Bed), Just(OutlineKind::Track)];
    let nodes = proptest::collection::vec(proptest::array::uniform2(-200.0_f32..200.0), 0..6);
    (0_u32..6, "[a-z]{0,5}", kind, nodes, -1.0_f32..5.0).prop_map(|(id, name, kind, nodes, soft_m)| Outline {
        id: OutlineId(id),
        name,
        kind,
        nodes,
        smooth: true,
        soft_m,
        width_m: 1.0,
        earth: None,
    })
}

fn obstacle() -> impl Strategy<Value = Obstacle> {
    let shape = prop_oneof![
        (-1.0_f32..30.0).prop_map(|size_m| Shape::Boulder { size_m, form: 2 }),
        proptest::collection::vec(proptest::array::uniform2(-20.0_f32..20.0), 0..4)
            .prop_map(|points| Shape::Wall { points, height_m: 1.0, thickness_m: 0.5 }),
    ];
    (0_u32..4, shape, -500.0_f32..500.0, -400.0_f32..400.0).prop_map(|(id, shape, x_m, turn_deg)| Obstacle {
        id: ObstacleId(id),
        name: "thing".to_owned(),
        shape,
        x_m,
        z_m: 0.0,
        lift_m: 0.0,
        on_ground: true,
        turn_deg,
        scale: 1.0,
        hidden: false,
    })
}

fn command() -> impl Strategy<Value = Command> {
    let id = || (0_u32..5).prop_map(LayerId);
    let one = prop_oneof![
        "[ a-z]{0,12}".prop_map(|name| Command::RenameScene { name }),
        proptest::option::of(0_u32..9).prop_map(|value| Command::CapScene { value }),
        (-2000.0_f32..2000.0)
            .prop_map(|v| Command::EditGround { edit: GroundEdit::Water { value: Some(v) } }),
        (0.0_f32..100.0, -1.0_f32..3.0).prop_map(|(steep_deg, patches)| Command::EditGround {
            edit: GroundEdit::Earths { value: Earths { steep_deg, patches, ..Earths::default() } }
        }),
        (stroke(), proptest::option::of(0_u32..4))
            .prop_map(|(value, place)| Command::EditGround { edit: GroundEdit::PutStroke { value, place } }),
        (outline(), proptest::option::of(0_u32..5))
            .prop_map(|(value, place)| Command::PutOutline { value, place }),
        (0_u32..6).prop_map(|id| Command::RemoveOutline { id: OutlineId(id) }),
        (obstacle(), proptest::option::of(0_u32..5))
            .prop_map(|(value, place)| Command::PutObstacle { value, place }),
        (0_u32..4).prop_map(|id| Command::RemoveObstacle { id: ObstacleId(id) }),
        (0_u32..4).prop_map(|id| Command::EditGround { edit: GroundEdit::RemoveStroke { id: StrokeId(id) } }),
        (-10.0_f32..5000.0).prop_map(|size_m| Command::EditGround {
            edit: GroundEdit::Source {
                value: GroundSource::Noise(NoiseGround { size_m, ..NoiseGround::default() })
            },
        }),
        (id(), 0_u32..6).prop_map(|(id, place)| Command::MoveLayer { id, place }),
        id().prop_map(|id| Command::RemoveLayer { id }),
        (id(), id(), prop::option::of(any::<u32>())).prop_map(|(id, copy, seed)| Command::DuplicateLayer {
            id,
            copy,
            seed
        }),
        (id(), layer_edit()).prop_map(|(id, edit)| Command::EditLayer { id, edit }),
        (Just(LayerId(1)), layer_edit()).prop_map(|(id, edit)| Command::EditLayer { id, edit }),
        (0_u32..4, 0.0_f32..130.0)
            .prop_map(|(id, value)| Command::EditShot { id: ShotId(id), edit: ShotEdit::View { value } }),
        (0_u32..4).prop_map(|id| Command::RemoveShot { id: ShotId(id) }),
        (-5.0_f32..45.0).prop_map(|value| Command::EditMotion { edit: MotionEdit::Speed { value } }),
        (-5.0_f32..365.0).prop_map(|value| Command::EditMotion { edit: MotionEdit::From { value } }),
        (0.0_f32..4000.0).prop_map(|value| Command::EditMotion { edit: MotionEdit::Length { value } }),
    ];
    one.prop_recursive(2, 8, 4, |inner| {
        proptest::collection::vec(inner, 0..4).prop_map(|commands| Command::All { commands })
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    #[test]
    fn undoing_a_run_of_commands_gives_the_first_document_back(commands in proptest::collection::vec(command(), 1..12)) {
        let first = kittiwake_head();
        let mut document = first.clone();
        let mut inverses = Vec::new();
        for c in &commands {
            match apply(&document, c) {
                Ok(applied) => {
                    prop_assert!(check_document(&applied.document).is_ok(), "an accepted command broke a rule");
                    inverses.push(applied.inverse);
                    document = applied.document;
                }
                Err(refusal) => prop_assert!(!refusal.to_string().is_empty()),
            }
        }
        for inverse in inverses.iter().rev() {
            document = apply(&document, inverse).expect("an inverse is never refused").document;
        }
        prop_assert_eq!(document, first);
    }

    #[test]
    fn commands_survive_being_written_down(c in command()) {
        let text = serde_json::to_string(&c).unwrap();
        // A number that is none becomes null in JSON, which no command accepts.
        if !text.contains("null") {
            prop_assert_eq!(serde_json::from_str::<Command>(&text).unwrap(), c);
        }
    }
}

#[test]
fn a_duplicate_is_complete_and_independent() {
    let first = kittiwake_head();
    let id = first.layers[0].id;
    let copy = LayerId(900);
    let twice = apply(&first, &Command::DuplicateLayer { id, copy, seed: Some(77) }).unwrap().document;
    let (a, b) = (twice.layer(id).unwrap(), twice.layer(copy).unwrap());
    assert_eq!(b.seed, 77);
    assert_eq!(Layer { id, name: a.name.clone(), seed: a.seed, ..b.clone() }, *a);
    assert_eq!(b.name, "Marram 2");
    let edit = LayerEdit::Seed { value: 78 };
    let parted = apply(&twice, &Command::EditLayer { id: copy, edit }).unwrap().document;
    assert_eq!(parted.layer(id), twice.layer(id));
}

#[test]
fn a_locked_layer_refuses_everything_but_unlocking_and_hiding() {
    let first = kittiwake_head();
    let id = first.layers[0].id;
    let edit = |document: &Document, edit| apply(document, &Command::EditLayer { id, edit });
    let locked = edit(&first, LayerEdit::Locked { value: true }).unwrap().document;
    let refused = edit(&locked, LayerEdit::Seed { value: 2 }).unwrap_err();
    assert_eq!(refused.to_string(), "the layer \u{201c}Marram\u{201d} is locked; unlock it to change it");
    assert!(matches!(apply(&locked, &Command::RemoveLayer { id }), Err(Refusal::Locked { .. })));
    assert!(edit(&locked, LayerEdit::Visible { value: false }).is_ok());
    assert!(edit(&locked, LayerEdit::Locked { value: false }).is_ok());
}

#[test]
fn an_unknown_field_or_a_negative_range_is_refused_with_its_name() {
    let mut file = to_json(&kittiwake_head());
    file["layers"][0]["colour"] = "red".into();
    let e = serde_json::from_value::<Document>(file).unwrap_err().to_string();
    assert!(e.contains("unknown field `colour`"), "{e}");
    let mut document = kittiwake_head();
    document.layers[0].stance.size = Range { min: 2.0, max: 1.0 };
    assert_eq!(
        check_document(&document).unwrap_err().to_string(),
        "size runs from 2 down to 1; the first must not be larger"
    );
    document.layers[0].stance.size = Range { min: -2.0, max: 1.0 };
    let e = check_document(&document).unwrap_err().to_string();
    assert_eq!(e, "size is -2 times; it must be from 0.01 to 100 times");
}

#[test]
fn arrangements_are_kept_once_each_and_change_no_plants() {
    let scene = kittiwake_head();
    let keep = |value: Vec<u32>| {
        apply(&scene, &Command::EditLayer { id: LayerId(1), edit: LayerEdit::KeptSeeds { value } })
    };
    let kept = keep(vec![7, 9]).unwrap();
    assert_eq!(kept.document.layer(LayerId(1)).unwrap().kept_seeds, [7, 9]);
    assert_eq!(apply(&kept.document, &kept.inverse).unwrap().document, scene);
    let name = |d: &Document| Keyed::new(d.clone()).layer_key(d.layer(LayerId(1)).unwrap());
    assert_eq!(name(&kept.document), name(&scene));
    assert_eq!(keep(vec![7, 9, 7]).unwrap_err().to_string(), "the arrangement of seed 7 is kept already");
    assert!(keep((0..25).collect()).unwrap_err().to_string().contains("more than the limit of 24"));
}

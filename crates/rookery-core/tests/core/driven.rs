//! What masks change beside the amount, and the patterns that are laid out, on terrains and on meshes.

use rookery_core::cancel::CancelToken;
use rookery_core::ground::made::arch;
use rookery_core::ground::{GroundModel, GroundRef, MeshModel, MeshStanding, Terrain, noise_terrain};
use rookery_core::habitat::Given;
use rookery_core::planting::Rules;
use rookery_core::planting::{Plant, PlantId, grow_everywhere};
use rookery_core::scene::*;
use std::collections::BTreeMap;
use std::sync::Arc;

/// A ramp of 80 x 80 m that rises to the east, without water.
fn ramp() -> GroundModel {
    let n = 81;
    let heights = (0..n * n).map(|i| (i % n) as f32 * 0.25).collect();
    GroundModel::new(Terrain::new(n, n, glam::Vec2::ONE, heights).unwrap(), None, 1)
}

fn grown(document: &Document, ground: &GroundModel) -> (Vec<Plant>, u64) {
    let model = |_| Some(GroundRef::Terrain(ground));
    let growth =
        grow_everywhere(document, &document.layers[0], &model, &|_| None, &CancelToken::default()).unwrap();
    assert_eq!(growth.tally.placed, growth.plants.len() as u64);
    (growth.plants, growth.tally.room.unwrap_or(0))
}

fn of(mix: &[(&str, f32)]) -> Document {
    let mut document = bare();
    let species = document.species(&SpeciesId("fescue".into())).unwrap().clone();
    let mut layer = Layer::usual(&species, LayerId(1), "Turf");
    layer.mix =
        mix.iter().map(|(id, share)| MixPart { species: SpeciesId((*id).into()), share: *share }).collect();
    (layer.masks, layer.amount) = (Vec::new(), Amount::PerM2 { value: 1.0 });
    layer.clearance = Clearance::default();
    document.layers = vec![layer];
    document
}

fn by_name(plants: &[Plant]) -> BTreeMap<PlantId, Plant> {
    plants.iter().map(|p| (p.id, *p)).collect()
}

/// Nothing at the western foot, all at the eastern top.
fn eastwards(drives: Drives) -> Mask {
    Mask { drives, ..Mask::band(MaskId(1), Quantity::Altitude, [0.0, 20.0, 30.0, 30.0]) }
}

#[test]
fn a_mask_that_drives_something_else_lets_every_plant_stand() {
    let ground = ramp();
    let plain = of(&[("fescue", 1.0)]);
    let (before, _) = grown(&plain, &ground);
    for drives in
        [Drives::Size { low: 0.2, high: 1.0 }, Drives::Mix, Drives::Tint { colour: [0.8, 0.4, 0.4] }]
    {
        let mut document = plain.clone();
        document.layers[0].masks = vec![eastwards(drives)];
        let (after, _) = grown(&document, &ground);
        assert_eq!(after.len(), before.len(), "{drives:?}");
        for (a, b) in after.iter().zip(&before) {
            assert_eq!((a.id, a.position_m, a.rotation, a.form), (b.id, b.position_m, b.rotation, b.form));
        }
    }
}

#[test]
fn size_goes_with_the_mask() {
    let ground = ramp();
    let mut document = of(&[("fescue", 1.0)]);
    document.layers[0].stance.size = Range { min: 1.0, max: 1.0 };
    document.layers[0].masks = vec![eastwards(Drives::Size { low: 0.5, high: 2.0 })];
    let (plants, _) = grown(&document, &ground);
    for p in &plants {
        let expected = 0.5 + 1.5 * p.position_m.y / 20.0;
        assert!((p.size - expected).abs() < 0.02, "{} at {}", p.size, p.position_m);
    }
}

#[test]
fn a_map_leads_from_the_first_species_to_the_last_and_can_be_turned_over() {
    let ground = ramp();
    let mut document = of(&[("fescue", 0.5), ("thrift", 0.5)]);
    document.layers[0].masks = vec![eastwards(Drives::Mix)];
    let (plants, _) = grown(&document, &ground);
    let share = |plants: &[Plant], from: f32, to: f32| {
        let here: Vec<&Plant> = plants.iter().filter(|p| (from..to).contains(&p.position_m.y)).collect();
        here.iter().filter(|p| p.species == 1).count() as f32 / here.len() as f32
    };
    // In each fifth of the ramp the second has as much as the map says there, within three standard deviations of 1280 plants.
    for fifth in 0..5 {
        let (from, to) = (fifth as f32 * 4.0, fifth as f32 * 4.0 + 4.0);
        let middle = (from + 2.0) / 20.0;
        assert!((share(&plants, from, to) - middle).abs() < 0.042, "{fifth}: {}", share(&plants, from, to));
    }
    document.layers[0].masks[0].response.inverted = true;
    let (turned, _) = grown(&document, &ground);
    assert!(share(&turned, 0.0, 4.0) > 0.85 && share(&turned, 16.0, 20.0) < 0.15);
}

#[test]
fn another_share_moves_no_plant_and_swaps_no_two() {
    let ground = ramp();
    let (before, _) = grown(&of(&[("fescue", 0.5), ("thrift", 0.3), ("marram", 0.2)]), &ground);
    let (after, _) = grown(&of(&[("fescue", 0.5), ("thrift", 0.3), ("marram", 0.4)]), &ground);
    let before = by_name(&before);
    let mut changed = 0;
    for p in &after {
        let old = before[&p.id];
        assert_eq!((old.position_m, old.rotation, old.size), (p.position_m, p.rotation, p.size));
        if old.species != p.species {
            assert_eq!(p.species, 2);
            changed += 1;
        }
    }
    // The third rises from 1 in 5 to 2 in 6: by 13.3 %.
    assert!((changed as f32 / after.len() as f32 - 0.1333).abs() < 0.013, "{changed}");
}

#[test]
fn trees_do_not_tumble_unless_they_are_let() {
    let ground = ramp();
    let mut document = of(&[("rowan", 1.0)]);
    document.layers[0].stance = Stance { tumble: 1.0, tilt_deg: 90.0, ..Stance::default() };
    let tilts = |document: &Document| {
        let (plants, _) = grown(document, &ground);
        plants.iter().map(|p| (p.rotation * glam::Vec3::Y).y.acos().to_degrees()).fold(0.0, f32::max)
    };
    assert!(tilts(&document) <= 15.1, "{}", tilts(&document));
    document.layers[0].stance.beyond = true;
    assert!(tilts(&document) > 120.0);
}

#[test]
fn rows_hold_their_places_thin_out_by_amount_and_stay_when_it_rises() {
    let ground = ramp();
    let mut document = of(&[("fescue", 1.0)]);
    let layer = &mut document.layers[0];
    layer.pattern = Pattern::Rows;
    layer.rows = Rows { between_m: 2.0, along_m: 1.0, jitter: 0.0, turn_deg: 90.0, ..Rows::default() };
    layer.amount = Amount::PerM2 { value: 0.5 };
    let (full, room) = grown(&document, &ground);
    assert_eq!(full.len() as u64, room);
    assert!(room.abs_diff(3200) < 130, "{room}");
    // Rows that run east lie at whole steps to the south.
    assert!(full.iter().all(|p| (p.position_m.z / 2.0 - (p.position_m.z / 2.0).round()).abs() < 1e-3));
    document.layers[0].amount = Amount::PerM2 { value: 0.2 };
    let (some, _) = grown(&document, &ground);
    assert!((some.len() as f32 / full.len() as f32 - 0.4).abs() < 0.03);
    let all = by_name(&full);
    assert!(some.iter().all(|p| all.get(&p.id) == Some(p)));
    // More than there is room for is no more.
    document.layers[0].amount = Amount::Total { value: 1_000_000 };
    assert_eq!(grown(&document, &ground).0.len(), full.len());
}

#[test]
fn plants_stand_along_a_track_and_go_with_it() {
    let ground = ramp();
    let mut document = of(&[("gorse", 1.0)]);
    let nodes = vec![[-30.0, 0.0], [30.0, 0.0]];
    document.outlines.push(Outline {
        id: OutlineId(4),
        name: "Footpath".into(),
        kind: OutlineKind::Track,
        nodes,
        smooth: false,
        soft_m: 0.0,
        width_m: 1.0,
        earth: None,
    });
    let layer = &mut document.layers[0];
    layer.pattern = Pattern::Along;
    layer.rows = Rows {
        along_m: 1.5,
        between_m: 1.0,
        jitter: 0.0,
        count: 2,
        offset_m: 1.0,
        line: Some(OutlineId(4)),
        ..Rows::default()
    };
    layer.amount = Amount::PerM2 { value: 10.0 };
    let (plants, room) = grown(&document, &ground);
    assert_eq!((plants.len(), room), (80, 80));
    assert!(plants.iter().all(|p| (p.position_m.z.abs() - 1.5).abs() < 1e-4));
    let key = |d: &Document| Keyed::new(d.clone()).layer_key(&d.layers[0]);
    let mut moved = document.clone();
    moved.outlines[0].nodes[1] = [20.0, 10.0];
    assert_ne!(key(&document), key(&moved), "another line, other plants");
    document.outlines.clear();
    assert!(grown(&document, &ground).0.is_empty());
}

#[test]
fn a_layout_stands_at_the_corners_and_faces_of_a_mesh() {
    let surface = arch(&ArchGround::default());
    let standing = MeshStanding {
        base_m: 0.0,
        upright: Upright::Surface,
        earths: Earths::default(),
        water_m: None,
        seed: 1,
    };
    let mesh = MeshModel::new(&surface, &standing).unwrap();
    let mut document = of(&[("fescue", 1.0)]);
    document.layers[0].amount = Amount::PerM2 { value: 1000.0 };
    let grow = |pattern: Pattern| {
        let mut layer = document.layers[0].clone();
        layer.pattern = pattern;
        let rules = Rules::on(&document, &layer, GroundId::LAND, &[], &Given::default());
        let ground = GroundRef::Mesh(&mesh);
        let grown =
            ground.grow(&layer, &rules, &mut ground.no_even_places(1), &CancelToken::default()).unwrap();
        grown.plants
    };
    let faces = grow(Pattern::Faces);
    assert_eq!(faces.len(), mesh.mesh.indices.len() / 3);
    let corners = grow(Pattern::Vertices);
    let mut places: Vec<[u32; 3]> =
        mesh.mesh.positions.iter().map(|p| p.to_array().map(f32::to_bits)).collect();
    places.sort_unstable();
    places.dedup();
    assert_eq!(corners.len(), places.len());
    // Rows come down on the arch and up on its underside: every plant lies on the surface.
    document.layers[0].rows = Rows { between_m: 1.0, along_m: 1.0, jitter: 0.5, ..Rows::default() };
    let mut layer = document.layers[0].clone();
    layer.pattern = Pattern::Rows;
    let rules = Rules::on(&document, &layer, GroundId::LAND, &[], &Given::default());
    let ground = GroundRef::Mesh(&mesh);
    let rows = ground.grow(&layer, &rules, &mut ground.no_even_places(1), &CancelToken::default()).unwrap();
    assert!(rows.plants.len() > 200, "{}", rows.plants.len());
    for p in rows.plants.iter().step_by(37) {
        let on = p.position_m + (p.rotation * glam::Vec3::Y) * layer.stance.sink_m;
        assert!(mesh.nearest(on).1 < 1e-3, "{}", p.position_m);
    }
}

#[test]
fn a_shift_keeps_plants_on_the_ground() {
    let ground = ramp();
    let mut document = of(&[("fescue", 1.0)]);
    document.layers[0].stance = Stance::default();
    let (before, _) = grown(&document, &ground);
    document.layers[0].stance.shift_m = 0.4;
    let (after, _) = grown(&document, &ground);
    let mut farthest = 0.0_f32;
    for (a, b) in after.iter().zip(&before) {
        assert_eq!(a.id, b.id);
        let flat = |p: &Plant| glam::Vec2::new(p.position_m.x, p.position_m.z);
        farthest = farthest.max(flat(a).distance(flat(b)));
        let true_m = ground.terrain.height_at(a.position_m.x, a.position_m.z);
        assert!((a.position_m.y - true_m).abs() < 1e-4);
    }
    assert!((0.38..=0.4001).contains(&farthest), "{farthest}");
}

#[test]
fn a_picture_over_the_plan_says_where_plants_stand() {
    let ground = GroundModel::new(
        noise_terrain::build(&NoiseGround { coast: 0.0, ..NoiseGround::default() }).unwrap(),
        None,
        1,
    );
    let mut document = of(&[("fescue", 1.0)]);
    let full = 65535;
    // West red, east blue.
    let rgba = vec![[full, 0, 0, full], [0, 0, full, full]];
    document.pictures.push(GroundPicture {
        id: PictureId(1),
        name: "Map".into(),
        blob: BlobId("0".repeat(64)),
        file: "map.png".into(),
        x_m: 0.0,
        z_m: 0.0,
        width_m: 240.0,
        depth_m: 240.0,
        turn_deg: 0.0,
        repeats: false,
        held: HeldPixels(Some(Arc::new(Pixels { width: 2, height: 1, rgba }))),
    });
    let look = PictureLook {
        laid: PictureLaid::Plan,
        id: PictureId(1),
        channel: PictureChannel::Grey,
        colour: [0.0, 0.0, 1.0],
    };
    let mask = Mask::band(MaskId(1), Quantity::Colour, [0.0, 0.0, 0.05, 0.1]);
    document.layers[0].masks = vec![Mask { picture: Some(look), ..mask }];
    check_document(&document).unwrap();
    let (plants, _) = grown(&document, &ground);
    assert!(plants.len() > 20_000 && plants.iter().all(|p| p.position_m.x >= 0.0));
    // By the plan's own edges it lies there wherever its picture was moved to.
    document.pictures[0].x_m = 5_000.0;
    assert!(grown(&document, &ground).0.is_empty());
    document.layers[0].masks[0].picture = Some(PictureLook { laid: PictureLaid::Uv, ..look });
    assert_eq!(grown(&document, &ground).0.len(), plants.len());
    document.layers[0].masks[0].picture = None;
    assert!(check_document(&document).is_err(), "a colour of no picture");
}

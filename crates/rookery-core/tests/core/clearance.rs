//! Plants keep clear: of their own kind, of other layers, of obstacles and of edges. Each against every pair or every point.

use glam::{Vec2, Vec3};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::ground::{GroundModel, GroundRef, Surface, Terrain, noise_terrain, obstacle};
use rookery_core::habitat::{Given, PaintField, reach_of_stroke};
use rookery_core::math::mesh_distance::MeshDistance;
use rookery_core::measure::{crossings, findings};
use rookery_core::nursery::Mesh;
use rookery_core::planting::Rules;
use rookery_core::planting::{Growth, Plant, Reason, grow_everywhere, grow_with, regrow};
use rookery_core::scene::*;

fn flat(side: usize) -> GroundModel {
    GroundModel::new(
        Terrain::new(side + 1, side + 1, Vec2::ONE, vec![0.0; (side + 1) * (side + 1)]).unwrap(),
        None,
        1,
    )
}

fn hills() -> GroundModel {
    let noise = NoiseGround { size_m: 60.0, samples: 61, relief_m: 25.0, ..NoiseGround::default() };
    GroundModel::new(noise_terrain::build(&noise).unwrap(), None, 1)
}

const CROWN: Keep = Keep { by: Reach::Crown, margin_m: 0.0, response: TooClose::Remove };

/// Layers of these species at random, the first on top; each keeps clear by its crown.
fn scene(species: &[(&str, f32)]) -> Document {
    let mut document = bare();
    for (i, (id, per_m2)) in species.iter().enumerate() {
        let own = document.species(&SpeciesId((*id).into())).unwrap().clone();
        let mut layer = Layer::usual(&own, LayerId(i as u32 + 1), id);
        (layer.masks, layer.pattern) = (Vec::new(), Pattern::Random);
        layer.amount = Amount::PerM2 { value: *per_m2 };
        layer.clearance = Clearance { own: CROWN, others: CROWN, obstacles: CROWN, ..Clearance::default() };
        document.layers.push(layer);
    }
    document
}

fn grown(document: &Document, ground: &GroundModel, id: u32) -> Growth {
    let model = |_| Some(GroundRef::Terrain(ground));
    let mesh = |o: &Obstacle| -> Option<Mesh> { Some(obstacle::mesh(o, &ground.terrain, None)) };
    let layer = document.layer(LayerId(id)).unwrap();
    grow_everywhere(document, layer, &model, &mesh, &CancelToken::default()).unwrap()
}

/// Crown radii as they stand.
fn radius(document: &Document, id: u32) -> impl Fn(&Plant) -> f32 + use<> {
    let layer = document.layer(LayerId(id)).unwrap();
    let radii: Vec<f32> = document.mix_of(layer).map(|(_, s)| s.radius_m()).collect();
    move |p| radii[usize::from(p.species)] * p.size * p.stretch[1].max(1.0)
}

fn refused(growth: &Growth, reason: Reason) -> u64 {
    growth.tally.refused.iter().find(|r| r.reason == reason).map_or(0, |r| r.count)
}

/// Where a plant meets the ground.
fn foot(ground: &GroundModel, p: &Plant) -> Vec3 {
    Vec3::new(p.position_m.x, ground.terrain.height_at(p.position_m.x, p.position_m.z), p.position_m.z)
}

#[test]
fn of_its_own_kind_those_stand_that_come_first_and_meet_none() {
    let ground = flat(14);
    for margin_m in [0.0, 0.3, -0.2] {
        let mut document = scene(&[("thrift", 14.0)]);
        document.layers[0].clearance.own.margin_m = margin_m;
        let some = grown(&document, &ground, 1);
        document.layers[0].clearance.own = Keep::default();
        let mut all = grown(&document, &ground, 1);
        let radius = radius(&document, 1);
        // Arrival by arrival, as the pattern tells it: a smaller amount holds the earlier ones.
        let mut arrived = Vec::new();
        for step in 1..=40 {
            document.layers[0].amount = Amount::PerM2 { value: 14.0 * step as f32 / 40.0 };
            let so_far: std::collections::BTreeSet<_> =
                grown(&document, &ground, 1).plants.iter().map(|p| p.id).collect();
            arrived.push(so_far);
        }
        let moment = |p: &Plant| arrived.iter().position(|s| s.contains(&p.id)).unwrap();
        all.plants.sort_by_key(moment);
        let near = |a: &Plant, b: &Plant| {
            a.position_m.distance(b.position_m) < (radius(a) + radius(b) + margin_m).max(0.0)
        };
        for (i, p) in some.plants.iter().enumerate() {
            assert!(some.plants[..i].iter().all(|q| !near(p, q)), "two that stand meet");
        }
        let stands: std::collections::BTreeSet<_> = some.plants.iter().map(|p| p.id).collect();
        for p in &all.plants {
            // One that fell has a neighbour that stands and did not come in a later step.
            let pushed = some.plants.iter().any(|q| q.id != p.id && near(p, q) && moment(q) <= moment(p));
            assert!(stands.contains(&p.id) || pushed, "it fell without a cause");
        }
        assert!(some.plants.len() < all.plants.len());
        assert_eq!(refused(&some, Reason::OwnKind) as usize, all.plants.len() - some.plants.len());
    }
}

#[test]
fn the_lower_layer_yields_to_the_higher_unless_the_table_says_otherwise() {
    let ground = hills();
    let mut document = scene(&[("gorse", 0.05), ("thrift", 6.0)]);
    let meets = |d: &Document| {
        let (gorse, thrift) = (grown(d, &ground, 1), grown(d, &ground, 2));
        let (r1, r2) = (radius(d, 1), radius(d, 2));
        let pairs = thrift.plants.iter().filter(|t| {
            let at = foot(&ground, t);
            // What others claim is measured from where they stand.
            gorse.plants.iter().any(|g| at.distance(g.position_m) < r1(g) + r2(t) - 0.1)
        });
        (pairs.count(), gorse, thrift)
    };
    // The same measured by footprints, which lie within crowns.
    let measured = |d: &Document, gorse: &Growth, thrift: &Growth| {
        let found = crossings(d, &d.layers[1], &thrift.plants, &[(&d.layers[0], &gorse.plants)]);
        assert_eq!(found[0].layer, LayerId(1));
        found[0].found.share
    };
    let (none, gorse, thrift) = meets(&document);
    assert_eq!((none, measured(&document, &gorse, &thrift)), (0, 0.0));
    let fell = refused(&thrift, Reason::Layer { id: LayerId(1) });
    assert!(fell > 50 && refused(&gorse, Reason::Layer { id: LayerId(2) }) == 0, "{fell}");
    assert_eq!(document.claims().over(LayerId(2)), [LayerId(1)]);

    let put = |layer: u32, to: u32, yields| Command::PutYield {
        value: Yield { layer: LayerId(layer), to: LayerId(to), yields },
    };
    let applied = apply(&document, &put(1, 2, false)).unwrap();
    let (some, between, through) = meets(&applied.document);
    assert!(some > 50, "they grow through one another");
    assert!(measured(&applied.document, &between, &through) > 0.0);
    assert!(through.plants.len() > thrift.plants.len());
    assert_eq!(apply(&applied.document, &applied.inverse).unwrap().document, document);

    document = apply(&document, &put(1, 2, true)).unwrap().document;
    let (none, fewer, _) = meets(&document);
    assert!(none == 0 && fewer.plants.len() < gorse.plants.len(), "now the gorse gives way");
    assert_eq!(
        (document.claims().over(LayerId(1)), document.claims().over(LayerId(2))),
        (&[LayerId(2)][..], &[][..])
    );
}

/// Before, thrift that reached over 0.3 m by its size range claimed before fescue, and gave way to it below.
#[test]
fn no_size_range_and_no_share_makes_the_order_of_claims_jump() {
    let mut document = scene(&[("fescue", 6.0), ("thrift", 6.0), ("gorse", 0.05)]);
    let part = |id: &str| MixPart { species: SpeciesId(id.into()), share: 0.5 };
    document.layers[1].mix = vec![part("thrift"), part("campion")];
    let before = document.claims();
    for size in [(0.1, 0.2), (0.75, 1.4), (1.0, 2.0), (3.0, 20.0)] {
        for share in [0.0, 0.3, 1.0] {
            for layer in &mut document.layers {
                (layer.stance.size.min, layer.stance.size.max) = size;
            }
            (document.layers[1].mix[0].share, document.layers[1].mix[1].share) = (share, 1.0 - share);
            assert_eq!(document.claims(), before, "{size:?} {share}");
        }
    }
}

#[test]
fn a_layer_that_is_looked_at_grows_first_and_circles_are_refused_by_name() {
    let mut document = scene(&[("gorse", 0.05), ("thrift", 6.0), ("campion", 1.0)]);
    let near = Mask {
        near: Some(Near::Layer { id: LayerId(3) }),
        ..Mask::band(MaskId(1), Quantity::Distance, [0.0, 0.0, 3.0, 5.0])
    };
    document.layers[0].masks = vec![near];
    check_document(&document).unwrap();
    let claims = document.claims();
    // The top layer looks at the lowest and the middle one yields to the top, so the lowest must grow first.
    assert_eq!(claims.over(LayerId(3)), []);
    assert_eq!(claims.over(LayerId(2)), [LayerId(1)]);
    let put = Command::PutYield { value: Yield { layer: LayerId(3), to: LayerId(1), yields: true } };
    let refusal = apply(&document, &put).unwrap_err().to_string();
    assert!(refusal.contains("gorse") && refusal.contains("campion"), "{refusal}");
    let own = Command::PutYield { value: Yield { layer: LayerId(3), to: LayerId(3), yields: true } };
    assert!(apply(&document, &own).unwrap_err().to_string().contains("itself"));
}

fn block(x_m: f32, turn_deg: f32) -> Obstacle {
    Obstacle {
        id: ObstacleId(1),
        name: "Block".into(),
        shape: Shape::Box { width_m: 9.0, depth_m: 5.0, height_m: 2.0 },
        x_m,
        z_m: 1.0,
        lift_m: 0.0,
        on_ground: true,
        turn_deg,
        scale: 1.0,
        hidden: true,
    }
}

#[test]
fn obstacles_are_kept_clear_of_by_distance_to_their_mesh() {
    let ground = flat(24);
    let mut document = scene(&[("thrift", 30.0)]);
    document.layers[0].clearance.own = Keep::default();
    let all = grown(&document, &ground, 1);
    let all_sunk_m = document.layers[0].stance.sink_m;
    document.obstacles = vec![block(4.0, 30.0)];
    let radius = radius(&document, 1);
    // A block on a plane: the distance to its four sides on the plan, worked out in its own frame.
    let room = |p: &Plant| {
        let (s, c) = 30.0_f32.to_radians().sin_cos();
        let (dx, dz) = (p.position_m.x - 4.0, p.position_m.z - 1.0);
        // Clockwise seen from above, with z to the south.
        let local = Vec2::new(dx * c + dz * s, -dx * s + dz * c);
        let out = local.abs() - Vec2::new(4.5, 2.5);
        if out.max_element() < 0.0 { out.max_element() } else { out.max(Vec2::ZERO).length() }
    };
    for margin_m in [0.0, 0.5] {
        document.layers[0].clearance.obstacles.margin_m = margin_m;
        let kept = grown(&document, &ground, 1);
        let expected: Vec<_> =
            all.plants.iter().filter(|p| room(p) >= radius(p) + margin_m).map(|p| p.id).collect();
        assert_eq!(kept.plants.iter().map(|p| p.id).collect::<Vec<_>>(), expected);
        assert_eq!(refused(&kept, Reason::Obstacle) as usize, all.plants.len() - expected.len());
    }
    document.layers[0].clearance.obstacles = Keep { response: TooClose::Shrink, ..CROWN };
    document.layers[0].clearance.least = 0.4;
    // However deep they are sunk, they are asked where they meet the ground.
    document.layers[0].stance.sink_m = 1.5;
    let sunk = grown(&document, &ground, 1);
    document.layers[0].stance.sink_m = 0.0;
    let level = grown(&document, &ground, 1);
    assert!(sunk.plants.iter().map(|p| (p.id, p.size)).eq(level.plants.iter().map(|p| (p.id, p.size))));
    document.layers[0].stance.sink_m = all_sunk_m;
    let shrunk = grown(&document, &ground, 1);
    let mut smaller = 0;
    for p in &all.plants {
        let now = shrunk.plants.iter().find(|q| q.id == p.id);
        let share = room(p) / radius(p);
        match now {
            Some(q) if share < 1.0 => {
                smaller += 1;
                assert!((q.size / p.size - share).abs() < 1e-3, "as small as its room");
            }
            Some(q) => assert_eq!(q, p),
            None => assert!(share < 0.4 + 1e-4, "{share}"),
        }
    }
    assert!(smaller > 10);
    // Moved by less than a metre, the clearing goes along: no plant more than reach and move away changes.
    document.obstacles[0].x_m += 0.7;
    let moved = grown(&document, &ground, 1);
    for p in &all.plants {
        if room(p) > 2.0 {
            let now = |g: &Growth| g.plants.iter().find(|q| q.id == p.id).copied();
            assert_eq!(now(&moved), now(&shrunk));
        }
    }
}

#[test]
fn what_lies_in_a_closed_mesh_is_in_it() {
    let ground = flat(40);
    let mesh = obstacle::mesh(&block(0.0, 0.0), &ground.terrain, None);
    let tree = MeshDistance::new(&mesh.positions, &mesh.indices);
    for (p, held) in [
        (Vec3::new(0.0, 0.0, 1.0), true),
        (Vec3::new(4.4, 1.9, 3.4), true),
        (Vec3::new(4.6, 0.0, 1.0), false),
        (Vec3::new(0.0, 2.1, 1.0), false),
    ] {
        assert_eq!(tree.holds(p), held, "{p}");
    }
}

/// The keeper's cottage is put together from blocks that overlap, and its walls are open above.
#[test]
fn the_ground_within_a_house_is_in_it_and_that_beside_it_is_not() {
    let ground = flat(24);
    let shape = Shape::Cottage { width_m: 9.4, depth_m: 5.2, eaves_m: 2.4, roof_deg: 43.0 };
    let mesh = obstacle::mesh(&Obstacle { shape, ..block(0.0, 0.0) }, &ground.terrain, None);
    let tree = MeshDistance::new(&mesh.positions, &mesh.indices);
    let mut wrong = 0;
    for i in 0..4000 {
        let p = Vec3::new((i % 80) as f32 * 0.17 - 6.8, 0.0, (i / 80) as f32 * 0.17 - 3.2);
        let local = Vec2::new(p.x, p.z - 1.0);
        let away = (local.abs() - Vec2::new(4.78, 2.68)).max_element();
        // Doorstep and sills reach out a little.
        if away.abs() > 0.7 && tree.holds(p) != (away < 0.0) {
            wrong += 1;
        }
    }
    assert_eq!(wrong, 0);
}

#[test]
fn nothing_hangs_over_the_edge_of_a_bed_or_into_a_clearing() {
    let ground = flat(40);
    let mut document = scene(&[("thrift", 5.0)]);
    let nodes = vec![[-18.0, -12.0], [20.0, -9.0], [11.0, 16.0], [0.0, 4.0], [-14.0, 15.0]];
    let bed = Outline {
        id: OutlineId(1),
        name: "Bed".into(),
        kind: OutlineKind::Bed,
        nodes,
        smooth: true,
        soft_m: 0.0,
        width_m: 1.0,
        earth: None,
    };
    document.outlines = vec![bed.clone()];
    document.zones =
        vec![Zone { id: ZoneId(1), name: "Bed".into(), outlines: vec![OutlineId(1)], groups: Vec::new() }];
    let line = OutlineLine::new(&bed);
    let radius = radius(&document, 1);
    for inverted in [false, true] {
        let mut mask =
            Mask { zone: Some(ZoneId(1)), ..Mask::band(MaskId(1), Quantity::Zone, [0.5, 0.5, 1.0, 1.0]) };
        mask.response.inverted = inverted;
        let layer = &mut document.layers[0];
        layer.masks = vec![mask];
        layer.clearance = Clearance::default();
        let all = grown(&document, &ground, 1);
        for response in [TooClose::Remove, TooClose::Shrink] {
            document.layers[0].clearance.edges = Keep { response, ..CROWN };
            let kept = grown(&document, &ground, 1);
            let depth = |p: &Plant| {
                line.distance_m(Vec2::new(p.position_m.x, p.position_m.z)) * if inverted { 1.0 } else { -1.0 }
            };
            assert!(kept.plants.len() > 100 && kept.plants.len() < all.plants.len());
            for p in &kept.plants {
                assert!(depth(p) >= radius(p) - 1e-3, "{} for {}", depth(p), radius(p));
            }
            let fits = all.plants.iter().filter(|p| depth(p) >= radius(p)).count();
            assert!(if response == TooClose::Remove {
                kept.plants.len() == fits
            } else {
                kept.plants.len() > fits
            });
        }
    }
}

/// A dab of the brush changes who stands beside whom; growing again comes to the same as growing anew.
#[test]
fn growing_again_after_a_dab_is_growing_anew_where_plants_keep_clear() {
    let ground = hills();
    let mut document = scene(&[("gorse", 0.03), ("thrift", 12.0)]);
    let stroke = |id: u32, x: f32| PaintStroke {
        id: PaintStrokeId(id),
        tool: if id == 2 { PaintTool::Erase } else { PaintTool::Add },
        points: vec![[x, 0.0, 3.0], [x + 5.0, 0.0, -4.0]],
        radius_m: 7.0,
        strength: 1.0,
        falloff: 0.5,
        ragged: 0.0,
        pressures: Vec::new(),
    };
    document.paints =
        vec![Paint { id: PaintId(1), name: "Here".into(), strokes: vec![stroke(1, 0.0)], bare: 0.0 }];
    document.layers[1].masks = vec![Mask {
        paint: Some(PaintId(1)),
        ..Mask::band(MaskId(1), Quantity::Painted, [0.0, 1.0, 1.0, 1.0])
    }];
    let rules = |d: &Document| {
        let layer = &d.layers[1];
        let plants = |l: &Layer| -> Result<_, rookery_core::planting::GrowError> {
            Ok(std::sync::Arc::new(grown(d, &ground, l.id.0)))
        };
        let given = Given::compute(
            d,
            layer,
            (GroundId::LAND, &GroundRef::Terrain(&ground)),
            (None, &|_| Ok(None)),
            |_| None,
            plants,
            &CancelToken::default(),
        )
        .unwrap();
        Rules::on(d, layer, GroundId::LAND, &[], &given)
    };
    let never = CancelToken::default();
    let mut even = ground.no_even_places(1);
    let before = grow_with(&ground, &document.layers[1], &rules(&document), &mut even, &never).unwrap();
    let next = stroke(2, 4.0);
    document.paints[0].strokes.push(next.clone());
    assert!(PaintField::new(&document.paints[0]).value(Vec3::new(9.0, 0.0, -4.0), true) < 0.5);
    let now = rules(&document);
    let anew = grow_with(&ground, &document.layers[1], &now, &mut even, &never).unwrap();
    let again = regrow(
        &ground,
        &document.layers[1],
        &now,
        &mut even,
        &before,
        &reach_of_stroke(&next).into(),
        &never,
    )
    .unwrap();
    assert_eq!(again.plants, anew.plants);
    assert_eq!(again.tally, anew.tally);
    assert!(anew.plants.len() != before.plants.len() && refused(&anew, Reason::OwnKind) > 0);
    // What the changes tell of is what there is.
    let mut told = Vec::new();
    for span in again.spans().unwrap() {
        told.extend_from_slice(&before.plants[span.kept.clone()]);
        let fresh = told.len()..told.len() + span.grown;
        told.extend_from_slice(&again.plants[fresh]);
    }
    assert_eq!(told, again.plants);
}

fn track(width_m: f32) -> Outline {
    let nodes = vec![[-22.0, -9.0], [-4.0, 3.0], [6.0, -2.0], [23.0, 10.0]];
    let (id, name, kind) = (OutlineId(1), "Path".into(), OutlineKind::Track);
    Outline { id, name, kind, nodes, smooth: true, soft_m: 0.5, width_m, earth: None }
}

#[test]
fn plants_keep_clear_of_tracks_at_their_width() {
    let ground = flat(40);
    let mut document = scene(&[("thrift", 6.0)]);
    document.layers[0].clearance = Clearance::default();
    let all = grown(&document, &ground, 1);
    document.outlines = vec![track(1.8), Outline { id: OutlineId(2), kind: OutlineKind::Bed, ..track(9.0) }];
    let line = OutlineLine::new(&document.outlines[0]);
    let radius = radius(&document, 1);
    let room = |p: &Plant| line.distance_m(Vec2::new(p.position_m.x, p.position_m.z));
    for margin_m in [-0.05, 0.0, 0.4] {
        document.layers[0].clearance.tracks = Keep { margin_m, ..CROWN };
        let kept = grown(&document, &ground, 1);
        let expected = all.plants.iter().filter(|p| room(p) >= radius(p) + margin_m);
        assert!(kept.plants.iter().eq(expected), "with a margin of {margin_m} m");
        assert_eq!(refused(&kept, Reason::Track) as usize, all.plants.len() - kept.plants.len());
    }
    document.layers[0].clearance.tracks = Keep { response: TooClose::Shrink, ..CROWN };
    let shrunk = grown(&document, &ground, 1);
    assert!(shrunk.plants.iter().all(|p| room(p) >= radius(p) - 1e-4));
    assert!(shrunk.plants.iter().any(|p| radius(p) < room(p) + 1e-4), "some are as small as their room");
    // Whoever moves the track grows the layer anew.
    let key = |d: &Document| Keyed::new(d.clone()).layer_key(&d.layers[0]).to_string();
    let before = key(&document);
    document.outlines[0].width_m = 2.0;
    assert_ne!(key(&document), before);
    document.layers[0].clearance.tracks = Keep::default();
    let off = key(&document);
    document.outlines[0].width_m = 3.0;
    assert_eq!(key(&document), off, "one that keeps clear of no track does not care");
}

/// Counted by squares of 5 cm over the whole ground, where the measure walks along the edges.
#[test]
fn the_bare_strip_along_a_track_is_as_large_as_squares_tell() {
    let ground = flat(40);
    let mut document = scene(&[("thrift", 30.0)]);
    document.outlines = vec![track(1.8)];
    let line = OutlineLine::new(&document.outlines[0]);
    let width = document.mix_of(&document.layers[0]).map(|(_, s)| s.radius_m()).fold(0.0, f32::max)
        * document.layers[0].stance.size.max;
    let mut shares = Vec::new();
    for margin_m in [0.0, -1.0] {
        document.layers[0].clearance =
            Clearance { tracks: Keep { margin_m, ..CROWN }, ..Clearance::default() };
        let growth = grown(&document, &ground, 1);
        let model = GroundRef::Terrain(&ground);
        let rules = Rules::on(&document, &document.layers[0], GroundId::LAND, &[], &Given::default());
        let on = [(GroundId::LAND, model, &rules)];
        let found = findings(&document, &document.layers[0], &on, &growth.plants).bare.unwrap();
        let radius = radius(&document, 1);
        let (mut strip, mut bare) = (0, 0);
        for k in 0..800 * 800 {
            let at = Vec2::new((k % 800) as f32, (k / 800) as f32) * 0.05 - 19.975;
            let away = line.distance_m(at);
            // A crown is round within its bounds; the measure takes it across, as it stands on the plan.
            if away > 0.0 && away < found.width_m {
                strip += 1;
                let under = |p: &Plant| at.distance(Vec2::new(p.position_m.x, p.position_m.z)) <= radius(p);
                bare += u32::from(!growth.plants.iter().any(under));
            }
        }
        assert!(found.width_m <= width * 1.001 && found.width_m > width * 0.9);
        let (strip, bare) = (f64::from(strip) * 0.0025, f64::from(bare) * 0.0025);
        assert!((found.strip_m2 / strip - 1.0).abs() < 0.03, "{found:?} for {strip} m2");
        assert!((found.bare_m2 / bare - 1.0).abs() < 0.05, "{found:?} for {bare} m2 bare");
        shares.push(found.bare_m2 / found.strip_m2 - f64::from(found.inner_share));
    }
    // Kept clear by the crown a strip stays bare; where they may reach over, it is as bare as farther in.
    assert!(shares[0] > 0.15 && shares[1].abs() < 0.06, "{shares:?}");
}

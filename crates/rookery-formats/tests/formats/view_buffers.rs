//! The buffers of the view: arrays where their layout says, and a sample for the decoder's own test.

use glam::{Quat, Vec2, Vec3};
use rookery_core::ground::{GroundModel, Reading, Terrain};
use rookery_core::nursery::{Detail, Dress, Mesh};
use rookery_core::planting::clearance::fit::{Fits, Fitted, How};
use rookery_core::planting::{AmountIn, Growth, Plant, PlantId, Tally};
use rookery_core::scene::{GroundId, Layer, MixPart, Pose, SpeciesId, Tended, TendedId, kittiwake_head};
use rookery_core::textures::{Sheets, Texture};
use rookery_formats::view::{
    VIEW_SAMPLES, encode_fits, encode_ground, encode_mesh, encode_plants, encode_reading, encode_textures,
};

/// What `web/src/api/buffers.test.ts` decodes. Kept beside it, and compared here, so that both sides see the same bytes.
const SAMPLE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/api/plants.sample.bin");

fn growth() -> Growth {
    let plants = (0..3)
        .map(|i| Plant {
            id: PlantId(i),
            position_m: Vec3::new(i as f32, 0.5, -2.0 * i as f32),
            rotation: Quat::from_xyzw(0.0, 0.6, 0.0, 0.8),
            size: 1.0 + 0.25 * i as f32,
            form: i as u16,
            tint: 0x1234 + i as u16,
            stretch: [1.0, 2.0],
            species: (i % 2) as u8,
            colour: [128, 64 * i as u8, 255],
            ..Plant::UPRIGHT
        })
        .collect();
    let tally = Tally {
        cap: 1_000_000,
        asked: 3,
        amount: AmountIn { per_m2: 0.5, total: 3, cover: 0.25, spacing_m: Some(1.5) },
        placed: 3,
        per_species: vec![2, 1],
        by_hand: 0,
        in_drifts: 0,
        candidates: 3,
        refused: vec![],
        room: None,
        ground_m2: 9.0,
        allowed_m2: 9.0,
        mask_shares: vec![],
    };
    Growth::new(plants, tally)
}

/// Two species, stretched and tinted.
fn layer() -> Layer {
    let mut layer = kittiwake_head().layers[0].clone();
    layer.mix.push(MixPart { species: SpeciesId("thrift".into()), share: 0.5 });
    layer.stance.deep.max = 2.0;
    layer.tint.strength = 0.5;
    layer
}

const FITS: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/api/fits.sample.bin");

#[test]
fn the_sample_of_fitted_plants_is_what_the_encoder_writes() {
    let one = |plant, how| Fitted {
        plant,
        positions: vec![Vec3::new(plant as f32, 0.25, -1.0), Vec3::Y],
        normals: vec![Vec3::X, Vec3::NEG_Z],
        how,
    };
    let gone = How { gone: true, ..How::default() };
    let bent = How { bent: true, smaller: true, ..How::default() };
    let trimmed = How { trimmed: true, ..How::default() };
    let fits =
        Fits { plants: vec![one(0, gone), one(1, bent), one(2, trimmed)], left: 7, detail: Detail::Light };
    let bytes = encode_fits(&growth().plants, &fits, "some plants");
    if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
        std::fs::write(FITS, &bytes).unwrap();
    }
    assert_eq!(std::fs::read(FITS).unwrap(), bytes, "ROOKERY_WRITE_SAMPLES=1 writes it anew");
}

#[test]
fn the_decoders_sample_is_what_the_encoder_writes() {
    let bytes = encode_plants(&layer(), &growth());
    if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
        std::fs::write(SAMPLE, &bytes).unwrap();
    }
    assert_eq!(std::fs::read(SAMPLE).unwrap(), bytes, "ROOKERY_WRITE_SAMPLES=1 writes it anew");
}

/// A layer that stretches and colours nothing still shows its plants in hand as they were made.
#[test]
fn plants_in_hand_keep_their_stretch_and_colour_whatever_the_layer_is_set_to() {
    let mut plain = kittiwake_head().layers[0].clone();
    (plain.masks, plain.tint, plain.stance) = (Vec::new(), Default::default(), Default::default());
    let head = |layer: &Layer| {
        let bytes = encode_plants(layer, &growth());
        let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
        let head: serde_json::Value = serde_json::from_slice(&bytes[8..8 + length]).unwrap();
        (head["stretched"].as_bool().unwrap(), head["coloured"].as_bool().unwrap())
    };
    assert_eq!(head(&plain), (false, false));
    let mut pose = Pose {
        species: SpeciesId("marram".into()),
        form: 0,
        size: 1.0,
        stretch: [1.0; 2],
        turn_deg: 0.0,
        tilt_deg: 0.0,
        tilt_to_deg: 0.0,
        lift_m: 0.0,
        tint: 0,
        colour: [128; 3],
    };
    let set = |pose: &Pose| {
        let mut layer = plain.clone();
        layer.tended.push(Tended {
            id: TendedId(1),
            ground: GroundId::LAND,
            at_m: [0.0; 3],
            from: None,
            plant: Some(pose.clone()),
            room_m: 0.0,
        });
        head(&layer)
    };
    assert_eq!(set(&pose), (false, false));
    pose.stretch = [1.5, 1.0];
    assert_eq!(set(&pose), (true, false));
    pose.colour = [128, 90, 128];
    assert_eq!(set(&pose), (true, true));
}

#[test]
fn a_fine_ground_is_thinned_and_keeps_its_size_and_its_corners() {
    let n = 1000;
    let heights: Vec<f32> = (0..n * n).map(|i| (i % n) as f32 + (i / n) as f32 * 0.001).collect();
    let ground = GroundModel::new(Terrain::new(n, n, Vec2::splat(2.0), heights.clone()).unwrap(), None, 1);
    let bytes = encode_ground(&ground);
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    let head: serde_json::Value = serde_json::from_slice(&bytes[8..8 + length]).unwrap();
    let (nx, nz) = (head["nx"].as_u64().unwrap() as usize, head["nz"].as_u64().unwrap() as usize);
    assert!(nx <= VIEW_SAMPLES && nz <= VIEW_SAMPLES);
    assert_eq!(head["size_m"][0], 1998.0);
    let start = (8 + length).next_multiple_of(4);
    let height = |i: usize| f32::from_le_bytes(bytes[start + i * 4..start + i * 4 + 4].try_into().unwrap());
    assert_eq!((height(0), height(nx * nz - 1)), (heights[0], heights[n * n - 1]));
    assert_eq!(bytes.len(), start + nx * nz * 16);
    // How much of each earth lies at the corner comes last.
    assert_eq!(bytes[bytes.len() - 4..], ground.earths_of(n * n - 1));
}

/// Pictures of what grounds and built things are made of: as long as their head says, each with its size.
#[test]
fn textures_are_as_long_as_their_head_says() {
    let bytes = encode_textures(&Sheets::usual(), &[]);
    assert_eq!(&bytes[..4], b"RKTX");
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    let head: serde_json::Value = serde_json::from_slice(&bytes[8..8 + length]).unwrap();
    let (side, sheets) = (head["side"].as_u64().unwrap() as usize, head["sheets"].as_array().unwrap());
    let start = (8 + length).next_multiple_of(4);
    assert_eq!(bytes.len(), start + sheets.len() * side * side * 8);
    assert_eq!(head["means"].as_array().unwrap().len(), 5);
    assert_eq!(head["means"], head["own"], "none wears pictures of its own");
    for (sheet, texture) in sheets.iter().zip(Texture::ALL) {
        assert_eq!(sheet["size_m"].as_f64().unwrap() as f32, texture.sheet().size_m);
    }
    let second = start + side * side * 4;
    assert_eq!(bytes[second..second + 4], Texture::Peat.sheet().texels[0]);
}

/// What is built says of each vertex where on its face it lies, and what it is made of there.
#[test]
fn a_built_mesh_carries_its_textures() {
    let places_m = vec![Vec2::new(0.5, 2.0), Vec2::new(1.5, 2.0), Vec2::new(1.0, 3.0)];
    let dress = Dress::Built {
        places_m,
        textures: vec![Texture::Lime.number(), Texture::Lime.number(), Dress::BARE],
    };
    let mesh = Mesh {
        positions: vec![Vec3::ZERO, Vec3::X, Vec3::Y],
        normals: vec![Vec3::Z; 3],
        colours: vec![Vec3::ONE; 3],
        indices: vec![0, 1, 2],
        dress: Box::new(dress),
        ..Mesh::default()
    };
    let bytes = encode_mesh(&mesh);
    let length = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
    let head: serde_json::Value = serde_json::from_slice(&bytes[8..8 + length]).unwrap();
    assert_eq!(head["dress"], "built");
    let at = (8 + length).next_multiple_of(4) + 3 * 40;
    let found: Vec<f32> =
        (0..9).map(|i| f32::from_le_bytes(bytes[at + i * 4..at + i * 4 + 4].try_into().unwrap())).collect();
    assert_eq!(found, [0.5, 2.0, 8.0, 1.5, 2.0, 8.0, 1.0, 3.0, -1.0]);
    assert_eq!(bytes.len(), at + 36 + 12);
}

#[test]
fn a_reading_has_its_values_at_the_samples_of_the_ground() {
    let (nx, nz) = (700, 420);
    let heights: Vec<f32> = (0..nx * nz).map(|i| (i % nx) as f32 * 0.5 + (i / nx) as f32 * 0.25).collect();
    let terrain = Terrain::new(nx, nz, Vec2::ONE, heights).unwrap();
    let values = terrain.heights_zx().to_vec();
    let model = GroundModel::new(terrain, None, 1);
    let reading = encode_reading(&(&model).into(), Reading::Altitude, &values);
    let ground = encode_ground(&model);
    let start = |b: &[u8]| (8 + u32::from_le_bytes(b[4..8].try_into().unwrap()) as usize).next_multiple_of(4);
    let (r, g) = (&reading[start(&reading)..], &ground[start(&ground)..]);
    assert_eq!(&reading[..4], b"RKRD");
    // The ground's first array is its heights, read here as the altitude.
    assert_eq!(r, &g[..r.len()]);
}

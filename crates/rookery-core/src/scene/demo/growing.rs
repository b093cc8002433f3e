//! What grows in the demo scenes besides marram and boulders.

use super::{headland, mask};
use crate::nursery::ready_species;
use crate::scene::*;

/// A layer of a ready species as it usually stands: how many a square metre, and bands of slope (degrees) and altitude (metres).
fn layer(id: u32, name: &str, species: &str, per_m2: f32, slope: [f32; 4], altitude: [f32; 4]) -> Layer {
    let found = ready_species(&SpeciesId(species.to_owned())).expect("the demo scenes grow ready species");
    let usual = Layer::usual(found, LayerId(id), name);
    Layer {
        seed: 40 + id * 7,
        amount: Amount::PerM2 { value: per_m2 },
        masks: vec![mask(1, Quantity::Slope, slope), mask(2, Quantity::Altitude, altitude)],
        ..usual
    }
}

fn clear(l: Layer) -> Layer {
    Layer { masks: headland::clear_of_paths(l.masks.clone()), ..l }
}

fn sized(l: Layer, min: f32, max: f32) -> Layer {
    Layer { stance: Stance { size: Range { min, max }, ..l.stance }, ..l }
}

/// As what was washed or rolled here lies: along the ground, hardly tilted, a little sunk.
fn bedded(l: Layer, sink_m: f32) -> Layer {
    Layer { stance: Stance { upright: 1.0, tilt_deg: 4.0, sink_m, ..l.stance }, ..l }
}

/// A few logs along the tide line, in an arrangement in which none of them spans a hollow.
fn driftwood() -> Layer {
    let logs = layer(10, "Driftwood", "driftwood", 0.025, [0.0, 0.0, 22.0, 28.0], [0.2, 0.5, 1.6, 2.6]);
    let lying = sized(bedded(logs, 0.06), 0.9, 1.4);
    Layer { seed: 15, stance: Stance { tilt_deg: 0.0, ..lying.stance }, ..lying }
}

fn sunk(l: Layer, sink_m: f32) -> Layer {
    Layer { stance: Stance { sink_m, ..l.stance }, ..l }
}

pub(super) fn on_the_headland() -> Vec<Layer> {
    let hawthorns = layer(8, "Hawthorns", "hawthorn", 0.0, [0.0, 0.0, 16.0, 26.0], [13.0, 15.0, 27.0, 34.0]);
    vec![
        clear(Layer { amount: Amount::Total { value: 16 }, ..hawthorns }),
        clear(layer(7, "Gorse", "gorse", 0.014, [4.0, 8.0, 30.0, 40.0], [9.0, 12.0, 26.0, 32.0])),
        sunk(
            clear(layer(6, "Bracken", "bracken", 0.16, [5.0, 8.0, 26.0, 36.0], [12.0, 15.0, 23.0, 28.0])),
            0.06,
        ),
        clear(layer(3, "Fescue turf", "fescue", 2.2, [0.0, 0.0, 30.0, 42.0], [7.0, 10.0, 40.0, 60.0])),
        clear(layer(4, "Thrift", "thrift", 0.16, [6.0, 14.0, 46.0, 58.0], [3.0, 5.0, 22.0, 30.0])),
        sunk(
            layer(5, "Sea campion", "campion", 0.05, [26.0, 32.0, 56.0, 66.0], [2.0, 4.0, 20.0, 28.0]),
            0.02,
        ),
        sized(
            bedded(layer(9, "Scree", "scree", 0.22, [0.0, 0.0, 23.0, 28.0], [-0.5, 0.3, 2.2, 4.5]), 0.005),
            0.7,
            1.7,
        ),
        driftwood(),
        moss_on_the_boulders(),
    ]
}

/// On the upper sides of the boulders, in patches, above the spray.
fn moss_on_the_boulders() -> Layer {
    let moss = layer(11, "Moss on boulders", "moss", 24.0, [0.0, 0.0, 180.0, 180.0], [2.0, 4.0, 60.0, 80.0]);
    let patches = NoiseMask { size_m: 0.9, seed: 5, ..NoiseMask::default() };
    Layer {
        on_plants: Some(LayerId(2)),
        masks: vec![
            mask(1, Quantity::Facing, [0.1, 0.55, 1.0, 1.0]),
            mask(2, Quantity::Altitude, [2.0, 4.0, 60.0, 80.0]),
            Mask { noise: Some(patches), ..mask(3, Quantity::Noise, [0.3, 0.6, 1.0, 1.0]) },
        ],
        stance: Stance { upright: 1.0, size: Range { min: 0.6, max: 1.9 }, ..moss.stance },
        // Cushions of moss grow into one another.
        clearance: Clearance { own: Keep::default(), ..moss.clearance },
        ..moss
    }
}

pub(super) fn on_the_moraine() -> Vec<Layer> {
    vec![
        layer(3, "Birches", "downy-birch", 0.004, [0.0, 0.0, 22.0, 32.0], [17.8, 19.0, 30.0, 36.0]),
        layer(4, "Rowans", "rowan", 0.0008, [4.0, 8.0, 26.0, 36.0], [19.0, 21.0, 32.0, 38.0]),
        layer(5, "Heather", "heather", 0.32, [0.0, 0.0, 26.0, 38.0], [18.4, 20.0, 38.0, 46.0]),
        layer(6, "Bilberry", "bilberry", 0.1, [8.0, 14.0, 34.0, 44.0], [19.0, 21.0, 36.0, 42.0]),
        layer(7, "Tarn edge", "cotton-grass", 1.2, [0.0, 0.0, 9.0, 15.0], [16.7, 16.9, 17.8, 18.6]),
        layer(8, "Bog moss", "bog-moss", 0.7, [0.0, 0.0, 12.0, 18.0], [16.6, 16.8, 18.0, 19.0]),
        // Loose stones rest up to some 35 degrees.
        sized(
            bedded(layer(9, "Scree", "scree", 0.06, [16.0, 20.0, 28.0, 33.0], [18.0, 20.0, 50.0, 60.0]), 0.0),
            0.7,
            1.8,
        ),
    ]
}

pub(super) fn on_the_arch(arch: GroundId) -> Vec<Layer> {
    let on = |l: Layer| Layer { grounds: vec![arch], ..l };
    vec![
        on(layer(3, "Thrift", "thrift", 0.9, [0.0, 0.0, 46.0, 64.0], [10.5, 12.0, 40.0, 60.0])),
        on(sunk(
            layer(4, "Sea campion", "campion", 0.35, [10.0, 24.0, 62.0, 76.0], [10.0, 12.0, 40.0, 60.0]),
            0.02,
        )),
        on(layer(5, "Stonecrop", "stonecrop", 0.5, [20.0, 32.0, 74.0, 88.0], [10.0, 12.0, 40.0, 60.0])),
        on(sized(
            layer(
                6,
                "Grey lichens",
                "grey-lichen",
                5.0,
                [36.0, 50.0, 112.0, 135.0],
                [10.0, 11.5, 40.0, 60.0],
            ),
            0.6,
            3.2,
        )),
        on(sized(
            layer(
                7,
                "Sunburst lichens",
                "sunburst-lichen",
                4.0,
                [30.0, 44.0, 100.0, 120.0],
                [9.2, 10.0, 19.0, 26.0],
            ),
            0.6,
            3.0,
        )),
    ]
}

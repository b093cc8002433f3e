//! Heightmaps: equal to what GDAL reads off them, and clear about what is wrong with bad ones.

use glam::Vec2;
use png::{BitDepth, ColorType, Encoder};
use proptest::prelude::*;
use rookery_core::ground::{Terrain, analysis};
use rookery_core::scene::{BlobId, HeightmapFormat, HeightmapGround};
use rookery_formats::heightmap::{HeightmapError, encode_ascii, inspect, terrain};

const JACKSBORO: &[u8] = include_bytes!("../data/jacksboro.asc");
const GDAL_SLOPE: &str = include_str!("../data/jacksboro_gdal_slope.txt");
const GDAL_ASPECT: &str = include_str!("../data/jacksboro_square_gdal_aspect.txt");

fn settings(format: HeightmapFormat, width_m: f32, depth_m: f32, low_m: f32, high_m: f32) -> HeightmapGround {
    HeightmapGround {
        middle_m: None,
        samples: None,
        blob: BlobId(String::new()),
        format,
        name: "test".into(),
        width_m,
        depth_m,
        low_m,
        high_m,
    }
}

fn jacksboro() -> Terrain {
    let found = inspect(JACKSBORO).unwrap();
    let (width, depth) = (found.width_m.unwrap(), found.depth_m.unwrap());
    terrain(&settings(HeightmapFormat::AsciiGrid, width, depth, found.low, found.high), JACKSBORO).unwrap()
}

fn numbers(text: &str) -> Vec<f32> {
    text.split_ascii_whitespace().map(|w| w.parse().unwrap()).collect()
}

/// Source: `gdaldem slope`, GDAL 3.6.2; see data/README.md.
#[test]
fn slope_equals_gdal_within_a_hundredth_of_a_degree() {
    let t = jacksboro();
    assert!((t.cell_m().x - 74.26605).abs() < 1e-3 && (t.cell_m().y - 92.66667).abs() < 1e-3);
    let ours = analysis::slope_deg(&t);
    let mut compared = 0;
    for (i, (ours, gdal)) in ours.iter().zip(numbers(GDAL_SLOPE)).enumerate() {
        if gdal != -9999.0 {
            compared += 1;
            assert!((ours - gdal).abs() < 0.01, "sample {i}: {ours} against {gdal}");
        }
    }
    assert_eq!(compared, 62 * 62);
}

/// Source: `gdaldem aspect`, GDAL 3.6.2, which assumes square cells.
#[test]
fn aspect_equals_gdal_on_square_cells() {
    let t = jacksboro();
    let square = Terrain::new(t.nx(), t.nz(), glam::Vec2::splat(80.0), t.heights_zx().to_vec()).unwrap();
    let mut compared = 0;
    for (i, (ours, gdal)) in analysis::aspect_deg(&square).iter().zip(numbers(GDAL_ASPECT)).enumerate() {
        if gdal != -9999.0 {
            compared += 1;
            let apart = (ours - gdal + 540.0).rem_euclid(360.0) - 180.0;
            assert!(apart.abs() < 0.01, "sample {i}: {ours} against {gdal}");
        }
    }
    assert!(compared > 3700, "{compared}");
}

fn png(width: u32, height: u32, colour: ColorType, depth: BitDepth, data: &[u8]) -> Vec<u8> {
    let mut out = Vec::new();
    let mut encoder = Encoder::new(&mut out, width, height);
    encoder.set_color(colour);
    encoder.set_depth(depth);
    encoder.write_header().unwrap().write_image_data(data).unwrap();
    out
}

#[test]
fn a_16_bit_picture_spans_from_black_to_white() {
    let grey = [0_u16, 32_768, 65_535, 13_107];
    let data: Vec<u8> = grey.iter().flat_map(|g| g.to_be_bytes()).collect();
    let file = png(2, 2, ColorType::Grayscale, BitDepth::Sixteen, &data);
    let found = inspect(&file).unwrap();
    assert_eq!((found.nx, found.nz, found.low, found.high, found.width_m), (2, 2, 0.0, 65_535.0, None));
    let t = terrain(&settings(HeightmapFormat::Png, 100.0, 50.0, -10.0, 90.0), &file).unwrap();
    let expected = [-10.0, 40.0, 90.0, 10.0];
    assert!(t.heights_zx().iter().zip(expected).all(|(a, b)| (a - b).abs() < 1e-2), "{:?}", t.heights_zx());
    assert_eq!(t.size_m(), glam::Vec2::new(100.0, 50.0));
}

#[test]
fn an_8_bit_picture_is_read_over_the_same_range() {
    let file = png(2, 2, ColorType::Grayscale, BitDepth::Eight, &[0, 255, 51, 102]);
    let t = terrain(&settings(HeightmapFormat::Png, 10.0, 10.0, 0.0, 10.0), &file).unwrap();
    assert_eq!(t.heights_zx(), [0.0, 10.0, 2.0, 4.0]);
}

fn error(bytes: &[u8]) -> String {
    inspect(bytes).unwrap_err().to_string()
}

#[test]
fn bad_pictures_are_refused_with_the_reason() {
    let good = png(64, 64, ColorType::Grayscale, BitDepth::Eight, &[7; 64 * 64]);
    assert!(
        error(&good[..good.len() / 2]).starts_with("the PNG picture is damaged"),
        "{}",
        error(&good[..good.len() / 2])
    );
    let mut torn = good.clone();
    let middle = torn.len() / 2;
    torn[middle] ^= 0xFF;
    assert!(error(&torn).starts_with("the PNG picture is damaged"));
    let colour = png(2, 2, ColorType::Rgb, BitDepth::Eight, &[9; 12]);
    assert_eq!(
        error(&colour),
        "the PNG picture is Rgb with 8 bits; heights need a grey picture with 8 or 16 bits"
    );
    assert_eq!(
        error(b"GIF89a......"),
        "this is none of the kinds that heights are read from: PNG, TIFF, GeoTIFF, OpenEXR, ESRI ASCII grid"
    );
    assert_eq!(
        error(b""),
        "this is none of the kinds that heights are read from: PNG, TIFF, GeoTIFF, OpenEXR, ESRI ASCII grid"
    );
}

/// Only the head is read: no memory is spent on a picture of 1.6 thousand million pixels.
#[test]
fn a_picture_of_40000_by_40000_is_refused_from_its_head() {
    let mut file = png(2, 2, ColorType::Grayscale, BitDepth::Sixteen, &[0; 8]);
    file[16..20].copy_from_slice(&40_000_u32.to_be_bytes());
    file[20..24].copy_from_slice(&40_000_u32.to_be_bytes());
    let mut crc = u32::MAX;
    for b in &file[12..29] {
        crc ^= u32::from(*b);
        for _ in 0..8 {
            crc = if crc & 1 == 1 { (crc >> 1) ^ 0xEDB8_8320 } else { crc >> 1 };
        }
    }
    file[29..33].copy_from_slice(&(!crc).to_be_bytes());
    assert_eq!(
        error(&file),
        "40000 x 40000 heights are more than the limit of 4096 x 4096; scale the file down first"
    );
}

#[test]
fn bad_grids_are_refused_with_the_line_and_the_reason() {
    let head = "ncols 3\nnrows 2\ncellsize 10\nNODATA_value -9999\n";
    let grid = |rows: &str| error(format!("{head}{rows}").as_bytes());
    assert_eq!(grid("1 2 3\n4 5\n"), "the head states 3 x 2 = 6 heights, the file has 5");
    assert_eq!(grid("1 2 3\n4 5 6 7\n"), "the head states 3 x 2 = 6 heights, the file has 7");
    assert_eq!(grid("-9999 -9999 -9999\n-9999 -9999 -9999\n"), "all 6 heights are missing");
    assert_eq!(grid("1 2 3\n4 high 6\n"), "line 6: a height is \u{201c}high\u{201d}, not a number");
    assert_eq!(grid("1 2 3\n4 nan 6\n"), "line 6: a height is \u{201c}nan\u{201d}, not a number");
    assert_eq!(error(b"ncols 3\nnrows two\n"), "line 2: nrows is \u{201c}two\u{201d}, not a whole number");
    assert_eq!(error(b"ncols 3\nnrows 2\ncellsize 0\n"), "line 3: cellsize is 0; it must be above zero");
    assert_eq!(error(b"ncols 3\nnrows 2\n1 2 3\n4 5 6\n"), "the grid's head lacks cellsize");
    assert_eq!(
        error(b"ncols 3\nnrows 2\ncolour 4\n"),
        "line 3: \u{201c}colour\u{201d} is not part of an ASCII grid's head"
    );
    let huge = error(b"ncols 40000\nnrows 40000\ncellsize 1\n0 0\n");
    assert_eq!(
        huge,
        "40000 x 40000 heights are more than the limit of 4096 x 4096; scale the file down first"
    );
}

#[test]
fn missing_heights_are_counted_and_filled_from_around() {
    let file = b"ncols 3\nnrows 3\ncellsize 10\nNODATA_value -9999\n1 2 3\n1 -9999 3\n1 2 3\n";
    let found = inspect(file).unwrap();
    assert_eq!((found.missing, found.low, found.high, found.white), (1, 1.0, 3.0, None));
    let t = terrain(&settings(HeightmapFormat::AsciiGrid, 20.0, 20.0, 1.0, 3.0), file).unwrap();
    assert!((1.0..=3.0).contains(&t.sample(1, 1)), "{}", t.sample(1, 1));
    assert_eq!((t.sample(0, 1), t.sample(2, 1)), (1.0, 3.0));
}

/// Source: `gdal_translate`, GDAL 3.6.2; see data/README.md.
mod written_by_gdal {
    use super::*;

    const WINDOW: &str = include_str!("../data/window.txt");

    fn exact(file: &[u8]) -> (Terrain, Vec<f32>) {
        let found = inspect(file).unwrap();
        assert_eq!((found.nx, found.nz), (24, 20));
        let (width, depth) = (found.width_m.unwrap_or(23.0), found.depth_m.unwrap_or(19.0));
        (
            terrain(&settings(found.format, width, depth, found.low, found.high), file).unwrap(),
            numbers(WINDOW),
        )
    }

    #[test]
    fn a_geotiff_of_floats_has_the_same_heights_and_scale() {
        let (t, expected) = exact(include_bytes!("../data/geo_f32.tif"));
        assert_eq!(t.heights_zx(), expected);
        assert!((t.cell_m().x - 74.26605).abs() < 1e-3 && (t.cell_m().y - 92.66667).abs() < 1e-3);
    }

    #[test]
    fn a_tiled_geotiff_of_whole_numbers_keeps_its_heights_and_fills_its_gaps() {
        let file = include_bytes!("../data/geo_i16_tiled.tif");
        let (t, expected) = exact(file);
        let gaps = expected.iter().filter(|h| **h == 700.0).count();
        assert_eq!(inspect(file).unwrap().missing, gaps);
        for (got, expected) in t.heights_zx().iter().zip(expected) {
            assert!(*got == expected || expected == 700.0, "{got} for {expected}");
        }
    }

    #[test]
    fn a_plain_tiff_is_grey_from_black_to_white() {
        let file = include_bytes!("../data/grey_u16.tif");
        let found = inspect(file).unwrap();
        assert_eq!((found.white, found.width_m), (Some(65_535.0), None));
        let t = terrain(&settings(found.format, 100.0, 100.0, 400.0, 900.0), file).unwrap();
        for (got, expected) in t.heights_zx().iter().zip(numbers(WINDOW)) {
            assert!((got - expected).abs() < 0.01, "{got} for {expected}");
        }
    }

    /// A tenth of a degree over 24 and 20 cells at 36.55 degrees north.
    #[test]
    fn cells_in_degrees_become_metres_at_their_latitude() {
        let found = inspect(include_bytes!("../data/degrees_f32.tif")).unwrap();
        let (x, z) = (found.width_m.unwrap() / 23.0 * 24.0, found.depth_m.unwrap() / 19.0 * 20.0);
        let east = 0.1 * 111_195.0 * 36.55_f32.to_radians().cos();
        assert!((x - east).abs() < 1.0 && (z - 11_119.5).abs() < 1.0, "{x} by {z}");
    }
}

/// Source: written by the Python package OpenEXR.
#[test]
fn an_exr_has_the_heights_its_writer_gave_it() {
    let file = include_bytes!("../data/heights.exr");
    let found = inspect(file).unwrap();
    assert_eq!((found.nx, found.nz, found.missing, found.white), (24, 20, 1, None));
    let t = terrain(&settings(HeightmapFormat::Exr, 23.0, 19.0, found.low, found.high), file).unwrap();
    for (i, (got, expected)) in
        t.heights_zx().iter().zip(numbers(include_str!("../data/window.txt"))).enumerate()
    {
        assert!(*got == expected || i == 3 * 24 + 4, "sample {i}: {got} for {expected}");
    }
}

/// A head that claims more than there is costs no memory and is refused.
#[test]
fn pictures_that_claim_40000_by_40000_are_refused_from_their_heads() {
    let mut tiff = include_bytes!("../data/grey_u16.tif").to_vec();
    // Little-endian directory entries: tag, type, count, value; 256 is the width, 257 the height, 278 the rows of a strip.
    let directory = u32::from_le_bytes(tiff[4..8].try_into().unwrap()) as usize;
    for entry in 0..u16::from_le_bytes([tiff[directory], tiff[directory + 1]]) as usize {
        let at = directory + 2 + entry * 12;
        if [256, 257, 278].contains(&u16::from_le_bytes([tiff[at], tiff[at + 1]])) {
            tiff[at + 8..at + 12].copy_from_slice(&40_000_u32.to_le_bytes());
        }
    }
    assert_eq!(
        error(&tiff),
        "40000 x 40000 heights are more than the limit of 4096 x 4096; scale the file down first"
    );
    let mut exr = include_bytes!("../data/heights.exr").to_vec();
    let window = exr.windows(10).position(|w| w == b"dataWindow").unwrap() + 11 + 6 + 4;
    exr[window + 8..window + 12].copy_from_slice(&39_999_u32.to_le_bytes());
    exr[window + 12..window + 16].copy_from_slice(&39_999_u32.to_le_bytes());
    assert_eq!(
        error(&exr),
        "40000 x 40000 heights are more than the limit of 4096 x 4096; scale the file down first"
    );
    let half = include_bytes!("../data/geo_f32.tif");
    assert!(
        error(&half[..half.len() / 2]).starts_with("the TIFF picture cannot be read"),
        "{}",
        error(&half[..half.len() / 2])
    );
}

proptest! {
    /// Whatever the bytes, a reader answers; it never panics.
    #[test]
    fn any_bytes_are_read_or_refused(mut bytes in proptest::collection::vec(any::<u8>(), 0..400), kind in 0..6) {
        let start: &[u8] = match kind {
            0 => b"\x89PNG\r\n\x1a\n",
            1 => b"ncols 3\nnrows 2\ncellsize 1\n",
            2 => b"II*\0\x08\0\0\0",
            3 => b"MM\0*\0\0\0\x08",
            4 => b"\x76\x2f\x31\x01\x02\0\0\0",
            _ => b"",
        };
        bytes.splice(0..0, start.iter().copied());
        let _ = inspect(&bytes);
    }

    #[test]
    fn damaged_good_files_are_read_or_refused(at in 0_usize..16_000, to: u8) {
        let mut file = JACKSBORO.to_vec();
        let at = at % file.len();
        file[at] = to;
        match inspect(&file) {
            Ok(found) => prop_assert!(found.nx * found.nz == 4096),
            Err(HeightmapError::Terrain(e)) => prop_assert!(!e.to_string().is_empty()),
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }

    #[test]
    fn damaged_pictures_are_read_or_refused(which in 0_usize..5, at: proptest::sample::Index, to: u8, cut: bool) {
        let files: [&[u8]; 5] = [
            include_bytes!("../data/geo_f32.tif"),
            include_bytes!("../data/geo_i16_tiled.tif"),
            include_bytes!("../data/grey_u16.tif"),
            include_bytes!("../data/degrees_f32.tif"),
            include_bytes!("../data/heights.exr"),
        ];
        let mut file = files[which].to_vec();
        let at = at.index(file.len());
        file[at] = to;
        if cut {
            file.truncate(at);
        }
        match inspect(&file) {
            Ok(found) => prop_assert!(found.nx * found.nz <= 4096 * 4096 && found.low <= found.high),
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }
}

/// Source: GDAL 3.6, `gdalinfo geo_f32.tif`: centre 1485.321, 4262.667. The grid's corner lies at 0, 0.
#[test]
fn the_middle_lies_where_the_tie_point_or_the_corner_puts_it() {
    let middle = |bytes: &[u8]| inspect(bytes).unwrap().middle_m.unwrap();
    for (bytes, [east, north]) in [
        (&include_bytes!("../data/geo_f32.tif")[..], [1485.321, 4262.667]),
        (&include_bytes!("../data/geo_i16_tiled.tif")[..], [1485.321, 4262.667]),
        (&include_bytes!("../data/jacksboro.asc")[..], [64.0 * 74.266_05 / 2.0, 64.0 * 92.666_67 / 2.0]),
        (b"ncols 3\nnrows 2\nxllcenter 100\nyllcenter 50\ncellsize 10\n1 2 3 4 5 6", [110.0, 55.0]),
    ] {
        let [e, n] = middle(bytes);
        assert!((e - east).abs() < 6e-4 && (n - north).abs() < 6e-4, "{e} {n}, not {east} {north}");
    }
    assert_eq!(inspect(include_bytes!("../data/grey_u16.tif")).unwrap().middle_m, None);
    assert_eq!(
        inspect(include_bytes!("../data/degrees_f32.tif")).unwrap().middle_m,
        None,
        "degrees are no metres"
    );
    assert_eq!(inspect(b"ncols 2\nnrows 2\ncellsize 1\n1 2 3 4").unwrap().middle_m, None);
}

/// Rasters that are written lie where the file that was read lies, and what is unknown is marked as such.
#[test]
fn a_written_grid_lies_on_the_map_and_marks_what_is_unknown() {
    let heights = vec![5.0_f32; 12];
    let terrain = Terrain::new(4, 3, Vec2::new(10.0, 10.0), heights).unwrap();
    let mut values = vec![1.5_f32; 12];
    values[0] = f32::NAN;
    let text = encode_ascii(&terrain, [3_512_345.5, 5_400_000.25], &values);
    let lines: Vec<&str> = text.lines().collect();
    assert_eq!(lines[2], "xllcenter 3512330.5");
    assert_eq!(lines[3], "yllcenter 5399990.25");
    assert!(lines[5].starts_with("NODATA_value -9999") && lines[6].starts_with("-9999 1.5 1.5"), "{text}");
}

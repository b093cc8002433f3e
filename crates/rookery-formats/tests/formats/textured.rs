//! A GLB of surfaces as they look up close, read back by the `gltf` crate.

use glam::{Vec2, Vec3};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::colour::means;
use rookery_core::ground::{Frame, GroundModel, GroundRef, noise_terrain, obstacle};
use rookery_core::nursery::Dress;
use rookery_core::scene::{NoiseGround, kittiwake_head};
use rookery_core::soils::FromAbove;
use rookery_core::textures::{Sheets, Texture};
use rookery_formats::gltf::write_glb;
use rookery_formats::picture::{png_srgb8, read_pixels, read_pixels_within};
use rookery_formats::{Handoff, Textured};

/// The bytes of a picture in a file.
fn png<'a>(image: &gltf::Image<'_>, bin: &'a [u8]) -> &'a [u8] {
    let gltf::image::Source::View { view, mime_type } = image.source() else { panic!("it is in the file") };
    assert_eq!(mime_type, "image/png");
    &bin[view.offset()..view.offset() + view.length()]
}

/// A large picture takes no more memory than is shown of it, and its means stay.
#[test]
fn a_picture_is_held_as_small_as_it_is_shown_with_the_means_of_its_light() {
    let side = 2100;
    let checks: Vec<u8> =
        (0..side * side).flat_map(|i| [if (i % side + i / side) % 2 == 0 { 255 } else { 0 }; 3]).collect();
    let png = png_srgb8(side as u32, side as u32, &checks).unwrap();
    for (light, mean) in [(true, 0.7354), (false, 0.5)] {
        let read = read_pixels_within(&png, 1024, light).unwrap();
        assert_eq!([read.width, read.height], [1050; 2]);
        // Half the light is shown as 0.7354 (IEC 61966-2-1), half a height is a half.
        assert!(read.rgba.iter().all(|p| (f32::from(p[0]) / 65535.0 - mean).abs() < 1e-3 && p[3] == 65535));
    }
    let small = read_pixels_within(&png_srgb8(3, 2, &[9; 18]).unwrap(), 1024, true).unwrap();
    assert_eq!([small.width, small.height], [3, 2]);
}

#[test]
fn the_land_is_handed_off_as_it_is_from_above_and_a_cottage_in_what_it_is_made_of() {
    let document = kittiwake_head();
    let noise = NoiseGround { samples: 65, ..NoiseGround::default() };
    let ground = GroundModel::new(noise_terrain::build(&noise).unwrap(), Some(0.0), 1);
    let sheets = Sheets::usual();
    let seen = FromAbove::of(&ground, None, &sheets, &means(), 96, &CancelToken::default()).unwrap();
    let cottage = obstacle::mesh(&document.obstacles[0], &ground.terrain, None);
    let Dress::Built { places_m, textures } = cottage.dress.as_ref().clone() else { panic!("it is built") };
    let handoff = Handoff {
        document: &document,
        grounds: vec![("Land".to_owned(), GroundRef::from(&ground).mesh(&Frame::SCENE))],
        obstacles: vec![("Cottage".to_owned(), cottage.clone())],
        layers: Vec::new(),
        motion: None,
        textures: Some(Textured { land: Some(&seen), sheets: &sheets }),
    };
    let file = gltf::Gltf::from_slice(&write_glb(&handoff).unwrap()).expect("a strict reader takes it");
    let bin = file.blob.as_deref().unwrap();
    let mesh = |name: &str| file.meshes().find(|m| m.name() == Some(name)).unwrap();
    // The land: each corner lies in its picture where it lies on the plan, and the picture has all of the colour.
    let land = mesh("Land").primitives().next().unwrap();
    let reader = land.reader(|_| Some(bin));
    assert!(reader.read_colors(0).is_none());
    let size = ground.terrain.size_m();
    for (p, uv) in reader.read_positions().unwrap().zip(reader.read_tex_coords(0).unwrap().into_f32()) {
        let at = (Vec2::new(p[0], p[2]) / size + 0.5 - Vec2::from(uv)).abs();
        assert!(at.max_element() < 1e-5, "{p:?} {uv:?}");
    }
    let material = land.material();
    let colour = material.pbr_metallic_roughness().base_color_texture().unwrap().texture().source();
    let picture = read_pixels(png(&colour, bin)).unwrap();
    assert_eq!([picture.width, picture.height], seen.pixels);
    for (pixel, own) in picture.rgba.iter().zip(&seen.colours) {
        assert_eq!([pixel[0], pixel[1], pixel[2]].map(|v| (v / 257) as u8), *own);
    }
    let normals = read_pixels(png(&material.normal_texture().unwrap().texture().source(), bin)).unwrap();
    assert_eq!([normals.width, normals.height], seen.pixels);
    // The cottage: a part for each thing it is made of, its colour what the view shows on the mean.
    let parts: Vec<_> = mesh("Cottage").primitives().collect();
    let kinds: std::collections::BTreeSet<u8> = textures.iter().copied().collect();
    assert_eq!(parts.len(), kinds.len());
    for (part, kind) in parts.iter().zip(kinds) {
        let Some(texture) = Texture::ALL.get(usize::from(kind)) else {
            assert!(part.material().normal_texture().is_none());
            continue;
        };
        let reader = part.reader(|_| Some(bin));
        let uv: Vec<[f32; 2]> = reader.read_tex_coords(0).unwrap().into_f32().collect();
        let colours: Vec<[f32; 3]> = reader.read_colors(0).unwrap().into_rgb_f32().collect();
        let source =
            part.material().pbr_metallic_roughness().base_color_texture().unwrap().texture().source();
        let picture = read_pixels(png(&source, bin)).unwrap();
        let linear = |v: u16| {
            let v = f32::from(v) / 65535.0;
            if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
        };
        let mean =
            picture.rgba.iter().map(|p| Vec3::new(linear(p[0]), linear(p[1]), linear(p[2]))).sum::<Vec3>()
                / picture.rgba.len() as f32;
        for corner in reader.read_indices().unwrap().into_u32().map(|i| i as usize) {
            assert_eq!(textures[corner], kind);
            let place = Vec2::from(uv[corner]) * sheets.of(*texture).size_m;
            assert!((place - places_m[corner]).abs().max_element() < 1e-3);
            let (shown, own) = (Vec3::from(colours[corner]) * mean, cottage.colours[corner]);
            assert!(((shown - own) / own).abs().max_element() < 0.05, "{texture:?}: {shown} for {own}");
        }
    }
}

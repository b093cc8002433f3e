//! OpenEXR: heights in metres in one channel of floats.

use super::{Grid, HeightmapError, Meaning, check_size};
use exr::meta::MetaData;
use exr::prelude::*;
use std::io::Cursor;

/// Channels that hold heights, the likeliest first; else the first of the file.
const CHANNELS: [&str; 7] = ["height", "Height", "Z", "Y", "R", "G", "B"];

pub(super) fn decode(bytes: &[u8]) -> std::result::Result<Grid, HeightmapError> {
    let bad = |e: exr::error::Error| HeightmapError::BadExr(e.to_string());
    // The sizes stated in the head are checked before memory is spent on them.
    let meta = MetaData::read_from_buffered(Cursor::new(bytes), false).map_err(bad)?;
    let mut channels = 0;
    for header in &meta.headers {
        let size = header.layer_size;
        check_size(size.width() as u64, size.height() as u64)?;
        channels += header.channels.list.len();
    }
    if channels > 16 {
        return Err(HeightmapError::BadExr(format!(
            "it has {channels} channels; heights need one, and 16 are the most that are read"
        )));
    }
    let image = read()
        .no_deep_data()
        .largest_resolution_level()
        .all_channels()
        .first_valid_layer()
        .all_attributes()
        .non_parallel()
        .from_buffered(Cursor::new(bytes))
        .map_err(bad)?;
    let layer = image.layer_data;
    let list = &layer.channel_data.list;
    let named = CHANNELS.iter().find_map(|name| list.iter().find(|c| c.name.eq(name)));
    let channel =
        named.or(list.first()).ok_or_else(|| HeightmapError::BadExr("it has no channel".to_owned()))?;
    let (nx, nz) = (layer.size.width(), layer.size.height());
    let missing = |v: f32| if v.is_finite() && v.abs() <= 1e6 { v } else { f32::NAN };
    let heights_zx: Vec<f32> = channel.sample_data.values_as_f32().map(missing).collect();
    if heights_zx.len() != nx * nz {
        return Err(HeightmapError::BadExr(format!(
            "channel {} has {} values for {nx} x {nz}",
            channel.name,
            heights_zx.len()
        )));
    }
    Ok(Grid { nx, nz, cell_m: None, middle_m: None, heights_zx, meaning: Meaning::Metres })
}

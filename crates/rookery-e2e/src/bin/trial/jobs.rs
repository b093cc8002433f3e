//! The jobs. Each ends in something measured, and fails where that is not so.

use crate::hand::{Hand, placed};
use rookery_e2e::Done;
use serde_json::{Value, json};

/// Fails with these words where something is not so.
fn so(is: bool, what: impl Into<String>) -> Done {
    if is { Ok(()) } else { Err(what.into().into()) }
}

/// Adds one layer of a species.
async fn add(h: &mut Hand, species: &str) -> Done {
    h.press("Add layer").await?;
    h.click(&format!("[data-testid=pick-{species}]")).await
}

/// Gathers species and takes them as one mix or as layers.
async fn add_several(h: &mut Hand, species: &[&str], way: &str) -> Done {
    h.press("Add layer").await?;
    for s in species {
        h.ctrl_click(&format!("[data-testid=pick-{s}]")).await?;
    }
    h.press(way).await
}

async fn add_mask(h: &mut Hand, quantity: &str) -> Done {
    h.click(&format!("[data-testid=quick-{quantity}-mask]")).await
}

/// A button of a part of the page by its words.
async fn press_in(h: &mut Hand, css: &str, words: &str) -> Done {
    h.steps += 1;
    let script = format!(
        "const b = [...document.querySelectorAll({})].find((b) => b.textContent.trim() === {}); b?.scrollIntoView({{ block: 'center' }}); b?.click(); return !!b",
        json!(format!("{css} button")),
        json!(words)
    );
    h.page.until(&format!("{words} in {css}"), &script).await
}

fn cover(line: &Value) -> f64 {
    line["tally"]["amount"]["cover"].as_f64().unwrap_or(0.0)
}

pub async fn lawn(h: &mut Hand) -> Done<String> {
    add_several(h, &["fescue", "moor-grass"], "As one mix").await?;
    h.number("amount-cover", "95").await?;
    add_several(h, &["harebell", "ragwort"], "As layers").await?;
    h.page.saved().await?;
    h.number("amount-per-m2", "0.2").await?;
    h.layer("Ragwort").await?;
    h.number("amount-per-m2", "0.1").await?;
    let m = h.measure().await?;
    let turf = m.last().ok_or("no layers")?;
    so(m.len() == 3 && cover(turf) > 0.94, format!("{m:?}"))?;
    let each = turf["tally"]["per_species"].as_array().cloned().unwrap_or_default();
    so(each.len() == 2 && each.iter().all(|c| c.as_u64() > Some(100)), format!("{each:?}"))?;
    let flowers: Vec<f64> = m[..2].iter().map(placed).collect();
    so(flowers.iter().all(|f| *f > 20.0 && *f < placed(turf) / 5.0), format!("{flowers:?}"))?;
    let stances = h.document().await?;
    let spread = |l: &Value| {
        l["stance"]["size"]["max"].as_f64() > l["stance"]["size"]["min"].as_f64()
            && l["stance"]["turn_deg"]["max"].as_f64() == Some(360.0)
    };
    so(stances["layers"].as_array().is_some_and(|l| l.iter().all(spread)), "sizes and turns do not spread")?;
    Ok(format!("{} tufts cover {:.0} %, {:?} flowers", placed(turf), cover(turf) * 100.0, flowers))
}

pub async fn solid(h: &mut Hand) -> Done<String> {
    h.press("Site").await?;
    h.click("[data-testid=add-ground]").await?;
    h.choose("Sea arch").await?;
    h.page.saved().await?;
    add(h, "fescue").await?;
    add_mask(h, "noise").await?;
    press_in(h, "[data-testid=mask-noise] [data-testid=mask-drives]", "Size").await?;
    h.press("Site").await?;
    h.click("[data-testid=add-obstacle]").await?;
    h.choose("Cylinder").await?;
    h.click_view(0, -60).await?;
    h.press("Planting").await?;
    press_in(h, "[data-testid=keep-obstacles]", "Bend aside").await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    let arch = d["grounds"][0]["id"].clone();
    so(d["layers"][0]["grounds"] == json!([arch]), "it does not grow on the arch alone")?;
    let plants = h.plants().await?;
    so(plants.len() > 200, format!("{}", plants.len()))?;
    let sizes = plants.iter().map(|p| p.size);
    let (low, high) = (sizes.clone().fold(f64::MAX, f64::min), sizes.fold(0.0, f64::max));
    so(high > low * 2.0, format!("sizes {low} to {high}"))?;
    Ok(format!(
        "{} on top of the arch, {low:.2} to {high:.2} times their size, an obstacle stands",
        placed(&m[0])
    ))
}

pub async fn trees_on_faces(h: &mut Hand) -> Done<String> {
    // A table of 8 x 8 m whose plate has a face group of its own.
    let obj = "v -20 0 -20\nv 20 0 -20\nv 20 0 20\nv -20 0 20\nv -20 4 -20\nv 20 4 -20\nv 20 4 20\nv -20 4 20\ng Top\nf 5 8 7 6\ng Sides\nf 1 2 3 4\nf 1 5 6 2\nf 2 6 7 3\nf 3 7 8 4\nf 4 8 5 1\n";
    let path = rookery_e2e::scratch("table")?.join("table.obj");
    std::fs::write(&path, obj)?;
    h.press("Site").await?;
    h.file("[data-testid=ground-mesh-file]", &path).await?;
    h.click("[data-testid=place-ground-mesh]").await?;
    h.press("Top").await?;
    h.page.saved().await?;
    add(h, "downy-birch").await?;
    h.number("amount-total", "80").await?;
    add_mask(h, "zone").await?;
    let m = h.measure().await?;
    let plants = h.plants().await?;
    so(plants.iter().all(|p| (p.y - plants[0].y).abs() < 0.5), "some are not on the top")?;
    so(placed(&m[0]) >= 60.0, format!("{} of 80 stand", placed(&m[0])))?;
    let d = h.document().await?;
    let sink = d["layers"][0]["stance"]["sink_m"].as_f64().unwrap_or(0.0);
    so(sink > 0.0, "not sunk")?;
    Ok(format!("{} of 80 trees on the top, sunk {sink:.2} m, clear of one another", placed(&m[0])))
}

pub async fn inverted(h: &mut Hand) -> Done<String> {
    add_several(h, &["fescue", "moor-grass"], "As one mix").await?;
    add_mask(h, "painted").await?;
    h.page.until("the brush", "return !!document.querySelector('[data-testid=brush]')").await?;
    h.stroke((-60, 40), (160, -20)).await?;
    h.press("Set aside as A").await?;
    h.number("turn-max", "0").await?;
    h.press("Stills of both, side by side").await?;
    h.stills(2).await?;
    h.press("More for Fescue turf and moor-grass tussocks").await?;
    h.choose("Duplicate").await?;
    h.rest().await?;
    h.click("[data-testid^=mix-] button").await?;
    h.press("Herbs").await?;
    h.click("[data-testid=pick-harebell]").await?;
    h.press("Painted: invert").await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    let paints: Vec<_> = d["layers"]
        .as_array()
        .into_iter()
        .flatten()
        .map(|l| l["masks"].as_array().and_then(|m| m.iter().find(|m| m["quantity"] == "painted")).cloned())
        .collect();
    so(paints.len() == 2 && paints.iter().flatten().count() == 2, format!("{paints:?}"))?;
    so(
        paints[0].as_ref().map(|p| &p["paint"]) == paints[1].as_ref().map(|p| &p["paint"]),
        "they do not share the painting",
    )?;
    Ok(format!("{} and {} plants, one painting, two stills", placed(&m[0]), placed(&m[1])))
}

pub async fn walk(h: &mut Hand) -> Done<String> {
    add_several(h, &["fescue", "harebell", "gorse"], "As layers").await?;
    h.press("Site").await?;
    h.click("[data-testid=draw-track]").await?;
    h.click_view(-180, 120).await?;
    h.click_twice(150, 10).await?;
    let plants = h.plants().await?;
    let d = h.document().await?;
    let line = &d["outlines"][0];
    let node = |i: usize, c: usize| line["nodes"][i][c].as_f64().unwrap_or(0.0);
    let half = line["width_m"].as_f64().unwrap_or(0.0) / 2.0;
    let (a, b) = ((node(0, 0), node(0, 1)), (node(1, 0), node(1, 1)));
    let away = |x: f64, z: f64| {
        let (dx, dz) = (b.0 - a.0, b.1 - a.1);
        let t = (((x - a.0) * dx + (z - a.1) * dz) / (dx * dx + dz * dz)).clamp(0.0, 1.0);
        (x - a.0 - dx * t).hypot(z - a.1 - dz * t)
    };
    let on = plants.iter().filter(|p| away(p.x, p.z) < half).count();
    so(on == 0 && half > 0.1, format!("{on} stand on the walk"))?;
    let near = plants.iter().filter(|p| away(p.x, p.z) < half + 2.0).count();
    so(near > 10, format!("only {near} beside it"))?;
    Ok(format!("{} plants, none on the walk of {:.1} m, {near} within 2 m of it", plants.len(), half * 2.0))
}

pub async fn counts(h: &mut Hand) -> Done<String> {
    h.press("A community").await?;
    h.click("[data-testid^=community-] button").await?;
    h.press("Drop it here").await?;
    h.rest().await?;
    h.click("[data-testid=add-species]").await?;
    h.press("Herbs").await?;
    h.click("[data-testid=pick-foxglove]").await?;
    h.press("Account").await?;
    let m = h.measure().await?;
    let mixed = m
        .iter()
        .find(|l| l["tally"]["per_species"].as_array().is_some_and(|s| s.len() > 1))
        .ok_or("no mix")?;
    let id = mixed["id"].as_u64().unwrap_or(0);
    let script = format!(
        "const r = document.querySelector('[data-testid=\"account-{id}-foxglove\"]'); return r ? [r.children[1].textContent, r.children[2].dataset.placed] : null"
    );
    let said = h.page.ask(&script).await?;
    let last =
        mixed["tally"]["per_species"].as_array().and_then(|s| s.last()).and_then(Value::as_u64).unwrap_or(0);
    so(said[1].as_str() == Some(&last.to_string()), format!("{said} and {last}"))?;
    Ok(format!(
        "asked {}, {last} of {} stand, as the account says",
        said[0].as_str().unwrap_or(""),
        placed(mixed)
    ))
}

pub async fn planet(h: &mut Hand) -> Done<String> {
    h.press("Site").await?;
    h.click("[data-testid=add-ground]").await?;
    h.choose("Small planet").await?;
    h.page.saved().await?;
    add(h, "downy-birch").await?;
    h.press("In clumps").await?;
    h.number("amount-per-m2", "5").await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    let g = &d["grounds"][0];
    so(g["upright"] == "centre", format!("up is {}", g["upright"]))?;
    so(d["layers"][0]["grounds"] == json!([g["id"]]), "it grows elsewhere too")?;
    so(placed(&m[0]) > 20.0, format!("{}", placed(&m[0])))?;
    let plants = h.plants().await?;
    let middle = g["y_m"].as_f64().unwrap_or(0.0);
    let below = plants.iter().filter(|p| p.y < middle).count();
    so(below > plants.len() / 5, format!("only {below} on the lower half"))?;
    Ok(format!("{} trees all around, {below} of them on the lower half, in clumps", plants.len()))
}

pub async fn cottage(h: &mut Hand) -> Done<String> {
    add(h, "fescue").await?;
    h.number("amount-total", "15000").await?;
    h.press("Site").await?;
    h.click("[data-testid=add-obstacle]").await?;
    h.choose("Cottage").await?;
    h.click_view(0, 0).await?;
    h.select("[data-testid=all-as]", "Boxes").await?;
    let m = h.measure().await?;
    so((placed(&m[0]) - 15000.0).abs() < 400.0, format!("{}", placed(&m[0])))?;
    let plants = h.plants().await?;
    let d = h.document().await?;
    let o = &d["obstacles"][0];
    let (x, z) = (o["x_m"].as_f64().unwrap_or(0.0), o["z_m"].as_f64().unwrap_or(0.0));
    let inside = plants.iter().filter(|p| (p.x - x).hypot(p.z - z) < 1.5).count();
    so(inside == 0, format!("{inside} inside"))?;
    Ok(format!("{} tufts, none in the cottage, all as boxes in the view", placed(&m[0])))
}

pub async fn drifts(h: &mut Hand) -> Done<String> {
    add_several(h, &["harebell", "ragwort"], "As one mix").await?;
    h.number("amount-per-m2", "0").await?;
    h.press("Tend").await?;
    h.press("Strew").await?;
    h.stroke((-120, 40), (180, -20)).await?;
    h.stroke((-60, 110), (160, 20)).await?;
    h.rest().await?;
    let before = placed(&h.measure().await?[0]);
    h.number("drift-density", "12").await?;
    let m = h.measure().await?;
    so(before > 5.0 && placed(&m[0]) > before, format!("{before} became {}", placed(&m[0])))?;
    let d = h.document().await?;
    so(d["layers"][0]["drifts"].as_array().map(Vec::len) == Some(2), "two drifts")?;
    Ok(format!("two drifts of two species, {before} plants, then {}", placed(&m[0])))
}

pub async fn bed(h: &mut Hand) -> Done<String> {
    add_several(h, &["gorse", "heather", "bilberry"], "As one mix").await?;
    h.number("amount-cover", "80").await?;
    h.press("Site").await?;
    h.press("Plan").await?;
    h.click("[data-testid=draw-bed]").await?;
    h.click_view(-100, -60).await?;
    h.click_view(100, -60).await?;
    h.click_twice(60, 90).await?;
    h.click("[data-testid=outline-inside]").await?;
    h.press("Planting").await?;
    press_in(h, "[data-testid=keep-edges]", "Trim").await?;
    add_mask(h, "in_view").await?;
    h.click("[data-testid=foreground]").await?;
    h.press("Strew").await?;
    h.stroke((-40, 30), (80, 10)).await?;
    let m = h.measure().await?;
    let bed = m.iter().find(|l| cover(l) > 0.7).ok_or_else(|| format!("no bed at 80 %: {m:?}"))?;
    let d = h.document().await?;
    so(d["layers"].as_array().map(Vec::len) == Some(2), "no foreground layer")?;
    Ok(format!("{} shrubs at {:.0} % cover in the bed and in sight", placed(bed), cover(bed) * 100.0))
}

pub async fn community(h: &mut Hand) -> Done<String> {
    h.press("A community").await?;
    h.click("[data-testid^=community-] button").await?;
    h.press("Drop it here").await?;
    h.rest().await?;
    let before: f64 = h.measure().await?.iter().map(placed).sum();
    h.press("Another").await?;
    h.select("[data-testid=all-as]", "Cards").await?;
    add_mask(h, "painted").await?;
    h.page.until("the brush", "return !!document.querySelector('[data-testid=brush]')").await?;
    h.stroke((-60, 40), (160, -20)).await?;
    h.press("Nursery").await?;
    // A year of four steps on a slider of 96 pixels.
    h.drag("[aria-label='Season of the scene']", 24, 0).await?;
    let d = h.document().await?;
    let m = h.measure().await?;
    let after: f64 = m.iter().map(placed).sum();
    so(d["season"].as_f64().is_some_and(|s| (1.6..2.4).contains(&s)), format!("season {}", d["season"]))?;
    so(after < before, format!("{before} became {after}"))?;
    Ok(format!("{} layers, {before} plants, {after} where painted, in autumn, as cards", m.len()))
}

pub async fn bands(h: &mut Hand) -> Done<String> {
    h.press("Shots").await?;
    h.press("Look through The whole ground").await?;
    h.click("[data-testid=take-still]").await?;
    add(h, "fescue").await?;
    h.page.saved().await?;
    h.press("More for Fescue turf").await?;
    h.choose("Part by distance").await?;
    h.press("Site").await?;
    h.press("Raise").await?;
    h.stroke((-40, 20), (90, -10)).await?;
    add(h, "hawthorn").await?;
    h.page.saved().await?;
    h.number("amount-total", "0").await?;
    h.press("Tend").await?;
    h.press("Add").await?;
    h.click_view(-120, 120).await?;
    h.click_view(60, 140).await?;
    h.press("Shots").await?;
    h.click("[data-testid=take-still]").await?;
    h.stills(2).await?;
    let m = h.measure().await?;
    let band = |name: &str| m.iter().find(|l| l["name"].as_str().is_some_and(|n| n.ends_with(name)));
    let density =
        |name: &str| band(name).and_then(|l| l["tally"]["amount"]["per_m2"].as_f64()).unwrap_or(0.0);
    let (near, middle, far) = (density("near"), density("middle"), density("far"));
    so(near > middle && middle > far && far > 0.0, format!("{near} {middle} {far}"))?;
    let by_hand = m.iter().filter_map(|l| l["tally"]["by_hand"].as_u64()).sum::<u64>();
    so(by_hand == 2, format!("{by_hand} trees by hand"))?;
    let d = h.document().await?;
    so(d["ground"]["strokes"].as_array().map(Vec::len) == Some(1), "not sculpted")?;
    Ok(format!("{near:.2}, {middle:.2} and {far:.2} a square metre, two trees by hand, two stills"))
}

pub async fn altitude(h: &mut Hand) -> Done<String> {
    h.press("Site").await?;
    h.click("[data-testid=add-ground]").await?;
    h.choose("Sea arch").await?;
    h.page.saved().await?;
    add(h, "thrift").await?;
    add_mask(h, "altitude").await?;
    h.select("[data-testid=show-as]", "box").await?;
    h.number("cap", "300").await?;
    let m = h.measure().await?;
    so((placed(&m[0]) - 300.0).abs() < 1.0, format!("{}", placed(&m[0])))?;
    let d = h.document().await?;
    let mask = d["layers"][0]["masks"]
        .as_array()
        .and_then(|m| m.iter().find(|m| m["quantity"] == "altitude"))
        .cloned()
        .ok_or("no band")?;
    let end = mask["response"]["end"].as_f64().unwrap_or(0.0);
    let plants = h.plants().await?;
    so(plants.iter().all(|p| p.y < end + 0.5), "some stand above the band")?;
    Ok(format!("{} cushions below {end:.1} m, as boxes, under a ceiling of 300", placed(&m[0])))
}

pub async fn pool(h: &mut Hand) -> Done<String> {
    h.press("Site").await?;
    h.click("[data-testid=add-water]").await?;
    h.page.saved().await?;
    add_several(h, &["water-lily", "pondweed"], "As one mix").await?;
    add_mask(h, "distance").await?;
    h.select("[data-testid=mask-near]", "a line, straight on").await?;
    press_in(h, "[data-testid=mask-distance] [data-testid=mask-drives]", "Mix").await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    let plants = h.plants().await?;
    let level = d["waters"][0]["height_m"].as_f64().unwrap_or(f64::NAN);
    so(
        !plants.is_empty() && plants.iter().all(|p| (p.y - level).abs() < 0.01),
        format!("{} plants, level {level}", plants.len()),
    )?;
    let each = m[0]["tally"]["per_species"].clone();
    so(each.as_array().is_some_and(|e| e.iter().all(|c| c.as_u64() > Some(0))), format!("{each}"))?;
    Ok(format!("{each} of the two float at {level:.2} m"))
}

pub async fn stones(h: &mut Hand) -> Done<String> {
    add_several(h, &["boulder", "scree"], "As one mix").await?;
    h.number("amount-per-m2", "0").await?;
    h.press("Tend").await?;
    h.press("Strew").await?;
    h.stroke((-120, 40), (180, -20)).await?;
    h.press("Shots").await?;
    h.number("sun-azimuth", "120").await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    so(placed(&m[0]) > 3.0, format!("{}", placed(&m[0])))?;
    so(d["shots"][0]["sun_azimuth_deg"].as_f64() == Some(120.0), "the sun did not move")?;
    Ok(format!("{} stones of two kinds along a stroke", placed(&m[0])))
}

pub async fn junipers(h: &mut Hand) -> Done<String> {
    // A picture: the left half black, the right half white.
    let path = rookery_e2e::scratch("picture")?.join("half.png");
    std::fs::write(&path, half_png())?;
    h.press("Site").await?;
    h.number("noise-size_m", "80").await?;
    add(h, "juniper").await?;
    h.number("amount-spacing", "4").await?;
    h.press("Evenly spread").await?;
    add_mask(h, "picture").await?;
    h.file("[data-testid=picture-file]", &path).await?;
    h.number("tint-strength", "40").await?;
    h.press("Another").await?;
    h.press("Tend").await?;
    h.press("Add").await?;
    h.click_view(60, 0).await?;
    let m = h.measure().await?;
    let d = h.document().await?;
    so(d["pictures"].as_array().map(Vec::len) == Some(1), "no picture")?;
    Ok(format!("{} junipers, {} by hand", placed(&m[0]), m[0]["tally"]["by_hand"]))
}

pub async fn building(h: &mut Hand) -> Done<String> {
    add_several(h, &["downy-birch", "fescue"], "As layers").await?;
    h.press("Site").await?;
    h.click("[data-testid=add-obstacle]").await?;
    h.choose("Cottage").await?;
    h.click_view(0, 0).await?;
    h.page.saved().await?;
    let before = h.measure().await?;
    h.drag("[data-testid=stand]", 90, 30).await?;
    let after = h.measure().await?;
    let d = h.document().await?;
    let o = &d["obstacles"][0];
    let (x, z) = (o["x_m"].as_f64().unwrap_or(0.0), o["z_m"].as_f64().unwrap_or(0.0));
    let plants = h.plants().await?;
    let inside = plants.iter().filter(|p| (p.x - x).hypot(p.z - z) < 1.5).count();
    so(inside == 0, format!("{inside} inside"))?;
    Ok(format!(
        "{:?} plants, then {:?}; none where it stands now",
        before.iter().map(placed).collect::<Vec<_>>(),
        after.iter().map(placed).collect::<Vec<_>>()
    ))
}

/// A grey PNG of 2 x 1 pixels, black and white; stored without compression.
fn half_png() -> Vec<u8> {
    fn crc(bytes: &[u8]) -> u32 {
        !bytes.iter().fold(u32::MAX, |crc, b| {
            (0..8).fold(crc ^ u32::from(*b), |c, _| if c & 1 == 1 { (c >> 1) ^ 0xEDB8_8320 } else { c >> 1 })
        })
    }
    let mut out = vec![0x89, b'P', b'N', b'G', 13, 10, 26, 10];
    let mut chunk = |kind: &[u8; 4], data: &[u8]| {
        out.extend((data.len() as u32).to_be_bytes());
        let body = [kind.as_slice(), data].concat();
        out.extend(&body);
        out.extend(crc(&body).to_be_bytes());
    };
    chunk(b"IHDR", &[0, 0, 0, 2, 0, 0, 0, 1, 8, 0, 0, 0, 0]);
    // One stored block of three bytes, then Adler-32 of them (RFC 1950).
    let row = [0_u8, 0, 255];
    let (a, b) = row
        .iter()
        .fold((1_u32, 0_u32), |(a, b), v| ((a + u32::from(*v)) % 65521, (b + a + u32::from(*v)) % 65521));
    let mut data = vec![0x78, 0x01, 0x01, 3, 0, 0xFC, 0xFF];
    data.extend(row);
    data.extend(((b << 16) | a).to_be_bytes());
    chunk(b"IDAT", &data);
    chunk(b"IEND", &[]);
    out
}

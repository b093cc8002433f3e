//! Reading a scene file: the document, with the files it names beside it.

use super::Failure;
use super::failure::read;
use crate::routes::handoff::GrownWhole;
use rookery_core::air::{Flow, heading};
use rookery_core::cancel::CancelToken;
use rookery_core::ground::{AnyGround, GroundModel, GroundRef};
use rookery_core::habitat::Needs;
use rookery_core::motion::{BodyMeshes, Moving};
use rookery_core::nursery::{Held, Mesh, Plan};
use rookery_core::planting::Rules;
use rookery_core::planting::clearance::fit::FINE;
use rookery_core::planting::{Grown, Growth, Sowing};
use rookery_core::scene::{
    BlobId, BodyForm, Document, GroundId, GroundSource, HeldPixels, Layer, Obstacle, PlacedGround,
    PlacedSource, Shape, blob_id, check_document, read_document,
};
use rookery_formats::mesh::hold;
use rookery_formats::picture::{EARTH_PX, read_pixels, read_pixels_within};
use rookery_formats::{GroundError, body_from_file, ground_model, obstacle_mesh, placed_model};
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::path::Path;
use std::sync::Arc;

/// Reads and checks a scene file.
pub(super) fn document(path: &Path) -> Result<Document, Failure> {
    let bytes = read(path)?;
    let named = |e: &dyn std::fmt::Display| Failure::bad(format!("{}: {e}", path.display()));
    let value = serde_json::from_slice(&bytes).map_err(|e| named(&e))?;
    let mut document = read_document(value).map_err(|e| named(&e))?;
    check_document(&document).map_err(|e| Failure::bad(format!("{}: {e}", path.display())))?;
    // Pictures that are not there are missed by the layers that look at them, see `pictured`.
    for picture in &mut document.pictures {
        if let Some(bytes) = beside(path, &picture.file, &picture.blob) {
            let pixels = read_pixels(&bytes).map_err(|e| Failure::bad(format!("{}: {e}", picture.file)))?;
            picture.held = HeldPixels(Some(Arc::new(pixels)));
        }
    }
    Ok(document)
}

/// Reads the pictures that earths wear.
pub(super) fn with_earth_pictures(path: &Path, mut document: Document) -> Result<Document, Failure> {
    let files = document.earth_pictures.iter_mut().flat_map(|set| set.files_mut().enumerate());
    for (nth, file) in files {
        let missing = || GroundError::MissingFile { name: file.file.clone(), id: file.blob.clone() };
        let bytes = beside(path, &file.file, &file.blob).ok_or_else(missing).map_err(Failure::bad)?;
        // First comes its colour.
        let pixels = read_pixels_within(&bytes, EARTH_PX, nth == 0)
            .map_err(|e| Failure::bad(format!("{}: {e}", file.file)))?;
        file.held = HeldPixels(Some(Arc::new(pixels)));
    }
    Ok(document)
}

/// Whether all pictures that a layer looks at were read.
fn pictured(document: &Document, layer: &Layer) -> Result<(), Failure> {
    let looked = layer.masks.iter().filter_map(|m| m.picture);
    let missing = looked
        .filter_map(|look| document.pictures.iter().find(|p| p.id == look.id))
        .find(|p| p.held.0.is_none());
    match missing {
        Some(p) => Err(Failure::bad(GroundError::MissingFile { name: p.file.clone(), id: p.blob.clone() })),
        None => Ok(()),
    }
}

/// Reads the meshes of species that come from files.
pub(super) fn with_species(path: &Path, mut document: Document) -> Result<Document, Failure> {
    for s in &mut document.species {
        if let Plan::Imported(plan) = &mut s.plan {
            let missing = || GroundError::MissingFile { name: plan.name.clone(), id: plan.blob.clone() };
            let bytes = beside(path, &plan.name, &plan.blob).ok_or_else(missing).map_err(Failure::bad)?;
            plan.held = Held::new(Arc::new(hold(plan, &bytes).map_err(Failure::bad)?));
        }
    }
    Ok(document)
}

/// The grounds of a scene file.
pub(super) struct Grounds {
    pub land: GroundModel,
    placed: BTreeMap<GroundId, AnyGround>,
    /// Layers that have grown on them.
    layers: Grown,
}

impl Grounds {
    /// The ground of an id; none when the scene has no such ground.
    pub fn get(&self, document: &Document, id: GroundId) -> Option<GroundRef<'_>> {
        if id == GroundId::LAND {
            return (!document.ground.absent).then_some((&self.land).into());
        }
        self.placed.get(&id).map(AnyGround::as_ref)
    }

    /// Those that are not hidden, where they stand.
    pub fn meshes(&self, document: &Document) -> Vec<(GroundId, Mesh)> {
        let shown =
            document.ground_ids().into_iter().filter(|id| document.placed(*id).is_none_or(|g| !g.hidden));
        shown.filter_map(|id| Some((id, self.get(document, id)?.mesh(&document.frame(id))))).collect()
    }
}

/// The mean wind over the land and what stands on it; none in a calm.
pub(super) fn flow(
    document: &Document,
    grounds: &Grounds,
    obstacles: &[(String, Mesh)],
) -> Result<Option<Arc<Flow>>, Failure> {
    let wind = &document.motion.wind;
    if wind.speed_m_per_s == 0.0 {
        return Ok(None);
    }
    let beside = beside_land(document, grounds);
    let bodies: Vec<&Mesh> = beside.iter().chain(obstacles.iter().map(|(_, mesh)| mesh)).collect();
    let never = CancelToken::default();
    let flow = Flow::over_scene(document, &grounds.land.terrain, &bodies, heading(wind.from_deg), &never);
    Ok(Some(Arc::new(flow.map_err(Failure::other)?)))
}

/// What moves by itself over the land, among what stands on it.
pub(super) fn moving(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
    obstacles: &[(String, Mesh)],
) -> Result<Moving, Failure> {
    let mut meshes = BodyMeshes::new();
    for body in &document.bodies {
        let name = match &body.form {
            BodyForm::Mesh { name, .. } => name.as_str(),
            _ => "",
        };
        let mesh = body_from_file(body, |id| beside(path, name, id));
        let mesh = mesh.map_err(|e| Failure::bad(format!("{}: {e}", body.name)))?;
        meshes.extend(mesh.map(|m| (body.id, m)));
    }
    let land = (!document.ground.absent).then_some(&grounds.land.terrain);
    let beside = beside_land(document, grounds);
    let solids: Vec<&Mesh> = beside.iter().chain(obstacles.iter().map(|(_, mesh)| mesh)).collect();
    Moving::with_meshes(document, land, &solids, &meshes, &CancelToken::default()).map_err(Failure::other)
}

/// The grounds beside the land that are shown, where they stand.
fn beside_land(document: &Document, grounds: &Grounds) -> Vec<Mesh> {
    let beside = document.ground_ids().into_iter().filter(|id| *id != GroundId::LAND);
    let shown = beside.filter(|id| document.placed(*id).is_none_or(|g| !g.hidden));
    shown.filter_map(|id| Some(grounds.get(document, id)?.mesh(&document.frame(id)))).collect()
}

/// Makes the grounds from their settings and their files.
pub(super) fn grounds(path: &Path, document: &Document) -> Result<Grounds, Failure> {
    let name = match &document.ground.source {
        GroundSource::Heightmap(h) => h.name.as_str(),
        GroundSource::Noise(_) => "",
    };
    let land = ground_model(document, |id| beside(path, name, id)).map_err(Failure::bad)?;
    let make = |g: Cow<'_, PlacedGround>| {
        let name = match &g.source {
            PlacedSource::Heightmap(h) => h.name.as_str(),
            PlacedSource::Mesh(m) => m.name.as_str(),
            _ => "",
        };
        let model = placed_model(&g, document.ground.water_m, |id| beside(path, name, id));
        Ok((g.id, model.map_err(|e| Failure::bad(format!("{}: {e}", g.name)))?))
    };
    let ids = document.grounds.iter().map(|g| g.id).chain(document.water_ids());
    let placed = ids.filter_map(|id| document.placed(id)).map(make).collect::<Result<_, Failure>>()?;
    Ok(Grounds { land, placed, layers: Grown::default() })
}

/// Makes the obstacles that are not hidden, by name, where they stand.
pub(super) fn obstacles(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
) -> Result<Vec<(String, Mesh)>, Failure> {
    let make = |o: &Obstacle| Ok((o.name.clone(), obstacle(path, document, grounds, o)?));
    document.obstacles.iter().filter(|o| !o.hidden).map(make).collect()
}

fn obstacle(path: &Path, document: &Document, grounds: &Grounds, o: &Obstacle) -> Result<Mesh, Failure> {
    let name = match &o.shape {
        Shape::Mesh { name, .. } => name.as_str(),
        _ => "",
    };
    let mesh = obstacle_mesh(document, o, &grounds.land.terrain, |id| beside(path, name, id));
    mesh.map_err(|e| Failure::bad(format!("{}: {e}", o.name)))
}

/// The masks of a layer on one ground, with all they look at.
pub(super) fn rules(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
    layer: &Layer,
    id: GroundId,
) -> Result<Rules, Failure> {
    let ground = grounds.get(document, id).ok_or_else(|| Failure::bad("this scene has no such ground"))?;
    rules_on(path, document, grounds, layer, id, ground)
}

/// The masks of a layer on a ground that is at hand.
pub(super) fn rules_on(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
    layer: &Layer,
    id: GroundId,
    ground: GroundRef<'_>,
) -> Result<Rules, Failure> {
    pictured(document, layer)?;
    let never = CancelToken::default();
    let obstacle = |o: &Obstacle| obstacle(path, document, grounds, o).ok();
    let model = |id| grounds.get(document, id);
    let sowing =
        Sowing { document, model: &model, obstacle: &obstacle, grown: &grounds.layers, cancel: &never };
    sowing.rules(layer, id, &ground).map_err(|e| Failure::bad(format!("{}: {e}", layer.name)))
}

/// A file looked for beside the scene file, under its own name and under its hash.
pub(super) fn beside(path: &Path, name: &str, id: &BlobId) -> Option<Vec<u8>> {
    let folder = path.parent().unwrap_or(Path::new("."));
    // Only the last part of a name counts: a scene file does not reach into other folders.
    let named = Path::new(name).file_name().map(|n| folder.join(n));
    let places = [named, Some(folder.join(&id.0))];
    places.into_iter().flatten().filter_map(|p| std::fs::read(p).ok()).find(|bytes| blob_id(bytes) == *id)
}

/// Grows the layers that pass the filter, where they stand.
pub(super) fn grown(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
    filter: impl Fn(&Layer) -> bool,
) -> Result<Vec<(Layer, Arc<Growth>)>, Failure> {
    let never = CancelToken::default();
    let model = |id| grounds.get(document, id);
    // What a mask measures its distance to must be there.
    for l in document.layers.iter().filter(|l| filter(l)) {
        pictured(document, l)?;
        let needs = Needs::new(document, l);
        for o in document.obstacles.iter().filter(|o| needs.obstacles.contains(&o.id)) {
            obstacle(path, document, grounds, o)?;
        }
    }
    let obstacle = |o: &Obstacle| obstacle(path, document, grounds, o).ok();
    let sowing =
        Sowing { document, model: &model, obstacle: &obstacle, grown: &grounds.layers, cancel: &never };
    document
        .layers
        .iter()
        .filter(|l| filter(l))
        .map(|l| {
            let growth = sowing.layer(l).map_err(|e| Failure::bad(format!("{}: {e}", l.name)))?;
            Ok((l.clone(), growth))
        })
        .collect()
}

/// The same with the plants that have forms of their own.
pub(super) fn whole(
    path: &Path,
    document: &Document,
    grounds: &Grounds,
    filter: impl Fn(&Layer) -> bool,
) -> Result<Vec<GrownWhole>, Failure> {
    let never = CancelToken::default();
    let model = |id| grounds.get(document, id);
    let obstacle = |o: &Obstacle| obstacle(path, document, grounds, o).ok();
    let sowing =
        Sowing { document, model: &model, obstacle: &obstacle, grown: &grounds.layers, cancel: &never };
    let fitted = |(layer, growth): (Layer, _)| {
        let fits = sowing.fits(&layer, FINE).map_err(|e| Failure::bad(format!("{}: {e}", layer.name)))?;
        Ok((layer, growth, Arc::new(fits)))
    };
    grown(path, document, grounds, filter)?.into_iter().map(fitted).collect()
}

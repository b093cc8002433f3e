//! What the ray tracer sees: a ground, form meshes and their instances, water, light.

use crate::accel::{Hit, Instance, Instances, MeshBvh, Ray, weights_at};
use crate::bent::{BentFacts, Loose};
use crate::light::Light;
use glam::{Quat, Vec2, Vec3, Vec3A};
use rookery_core::ground::colour::means;
use rookery_core::nursery::{Detail, Dress, Mesh, Place};
use rookery_core::planting::Plant;
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::scene::{Document, GroundId, Layer, WaterPlane, Wind, sheets_of};
use rookery_core::soils::Soils;
use rookery_core::textures::Sheets;
use rookery_core::water::{Sea, SeaNow};
use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;

/// A point of a surface, ready to be lit.
#[derive(Clone, Copy, Debug)]
pub struct Surface {
    /// Where, metres.
    pub position: Vec3A,
    /// Unit normal of the triangle, towards where the ray came from.
    pub face: Vec3A,
    /// Unit normal for shading.
    pub normal: Vec3A,
    /// Share of light that comes back, linear RGB.
    pub albedo: Vec3A,
    /// Share of light that goes through, linear RGB.
    pub through: Vec3A,
    /// How glossy, 0 to 1.
    pub sheen: f32,
    /// Light it gives off by itself, linear RGB.
    pub glow: Vec3A,
}

/// Waves run up no higher than this, metres.
const WETS_M: f32 = 4.0;
/// Share of its light that wet ground swallows besides: wet sand sends back about half of what dry sand does (common textbook value).
const WET_DARKENS: f32 = 0.42;
/// How glossy it is.
const WET_SHINES: f32 = 0.5;

/// A level sheet of water.
#[derive(Clone, Debug)]
pub struct Water {
    /// Its height, metres.
    pub level_m: f32,
    /// Where it ends; none for one without end.
    pub plane: Option<WaterPlane>,
}

impl Water {
    /// All water of a scene.
    pub fn all_in(document: &Document) -> Vec<Self> {
        let everywhere = document.ground.water_m.map(|level_m| Self { level_m, plane: None });
        let planes = document.waters.iter().map(|w| Self { level_m: w.height_m, plane: Some(w.clone()) });
        everywhere.into_iter().chain(planes).collect()
    }

    /// Whether a point of the plan lies on it.
    pub fn covers(&self, x: f32, z: f32) -> bool {
        self.plane.as_ref().is_none_or(|p| p.covers(x, z))
    }
}

/// A scene ready to be rendered.
pub struct RenderScene {
    ground: Option<(Mesh, MeshBvh)>,
    pub(crate) parts: Vec<Mesh>,
    pub(crate) bvhs: Vec<MeshBvh>,
    instances: Instances,
    /// Which triangles of the ground are the land's.
    land: Range<u32>,
    /// What outlines lay over the land.
    pub soils: Option<Soils>,
    /// Usual mean colours of the earths.
    means: [Vec3; 5],
    /// What they and built things are made of.
    sheets: Sheets,
    /// Sheets of water, if there are any.
    pub waters: Vec<Water>,
    /// Waves on them.
    pub sea: SeaNow,
    /// Sun, sky and air.
    pub light: Light,
    /// Plants that a wind can bend.
    pub(crate) loose: Loose,
    /// What it took to bend them.
    pub bent: BentFacts,
}

impl RenderScene {
    /// Gathers grounds, obstacles and grown layers with the plants that have forms of their own, all where they stand in the scene, at rest. The caller leaves hidden ones out.
    pub fn new(
        grounds: Vec<(GroundId, Mesh)>,
        waters: Vec<Water>,
        obstacles: Vec<Mesh>,
        document: &Document,
        layers: &[(&Layer, &[Plant], &Fits)],
        light: Light,
    ) -> Self {
        let mut mesh = Mesh::default();
        let moves = |id: &GroundId| document.placed(*id).is_some_and(|g| g.moves.is_some());
        let (moving, still): (Vec<_>, Vec<_>) = grounds.into_iter().partition(|(id, _)| moves(id));
        let mut land = 0..0;
        for (id, ground) in still {
            let first = mesh.positions.len() as u32;
            mesh.dress.join(mesh.positions.len(), &ground.dress, ground.positions.len());
            // What lies beyond its edges is the land's as well, but comes after it.
            if id == GroundId::LAND && land.is_empty() {
                let from = mesh.indices.len() as u32 / 3;
                land = from..from + ground.indices.len() as u32 / 3;
            }
            mesh.positions.extend(ground.positions);
            mesh.normals.extend(ground.normals);
            mesh.colours.extend(ground.colours);
            mesh.indices.extend(ground.indices.into_iter().map(|i| first + i));
        }
        let mesh = (!mesh.indices.is_empty()).then_some(mesh);
        let mut scene = Self::of_mesh(mesh, light);
        scene.land = land;
        scene.sheets = sheets_of(&document.earth_pictures);
        let mut list =
            Vec::with_capacity(layers.iter().map(|(_, p, _)| p.len()).sum::<usize>() + obstacles.len());
        for mesh in obstacles.into_iter().filter(|m| !m.indices.is_empty()) {
            let mesh = scene.add_part(mesh);
            list.push(Instance::new(mesh));
        }
        for (id, mesh) in moving.into_iter().filter(|(_, m)| !m.indices.is_empty()) {
            let mesh = scene.add_part(mesh);
            scene.loose.carry(list.len(), id);
            list.push(Instance::new(mesh));
        }
        let carriers: BTreeSet<GroundId> =
            document.grounds.iter().filter(|g| g.moves.is_some()).map(|g| g.id).collect();
        let mut forms = BTreeMap::new();
        for (nth, (layer, plants, fits)) in layers.iter().enumerate() {
            let mut fitted = fits.plants.iter().peekable();
            for (i, p) in plants.iter().enumerate() {
                let Some(species) = document.species_of(layer, p) else { continue };
                let sways = species.sway().is_some();
                let carried = carriers.contains(&p.carrier);
                if let Some(own) = fitted.next_if(|f| f.plant as usize == i) {
                    if own.how.gone {
                        continue;
                    }
                    let form = species.build(p.form, fits.detail, document.season);
                    let mesh = scene.add_part(Fits::mesh(own, &form));
                    let place = Instance::new(mesh);
                    if carried {
                        scene.loose.carry(list.len(), p.carrier);
                    }
                    list.push(Instance {
                        position: p.position_m.into(),
                        tint: p.tint,
                        colour: p.colour,
                        ..place
                    });
                    continue;
                }
                let mesh = *forms
                    .entry((&species.id, p.form))
                    .or_insert_with(|| scene.add_part(species.build(p.form, Detail::Full, document.season)));
                if carried {
                    scene.loose.carry(list.len(), p.carrier);
                }
                if sways {
                    scene.loose.add(list.len(), nth, i);
                }
                list.push(Instance {
                    position: p.position_m.into(),
                    rotation: p.rotation,
                    scale: p.scale().into(),
                    mesh,
                    tint: p.tint,
                    colour: p.colour,
                });
            }
        }
        scene.place(list);
        scene.waters = waters;
        scene.sea = Sea::open(&document.motion.wind, document.ground.water_m).at(0.0);
        scene
    }

    /// A scene with one still mesh and nothing else; parts and instances may be added.
    pub fn of_mesh(mesh: Option<Mesh>, light: Light) -> Self {
        let ground = mesh.map(|m| {
            let bvh = MeshBvh::new(&m);
            (m, bvh)
        });
        let instances = Instances::new(Vec::new(), &[]);
        Self {
            ground,
            parts: Vec::new(),
            bvhs: Vec::new(),
            instances,
            land: 0..0,
            soils: None,
            means: means(),
            sheets: Sheets::usual(),
            waters: Vec::new(),
            sea: Sea::open(&Wind::default(), None).at(0.0),
            light,
            loose: Loose::default(),
            bent: BentFacts::default(),
        }
    }

    /// Adds a mesh that instances may name; returns its number.
    pub fn add_part(&mut self, mesh: Mesh) -> u32 {
        self.bvhs.push(MeshBvh::new(&mesh));
        self.parts.push(mesh);
        self.parts.len() as u32 - 1
    }

    /// Replaces all instances.
    pub fn place(&mut self, list: Vec<Instance>) {
        self.instances = Instances::new(list, &self.bvhs);
    }

    /// All instances, in the order they were given.
    pub(crate) fn placed(&self) -> &[Instance] {
        self.instances.list()
    }

    /// The nearest hit before the ray's end.
    pub fn nearest(&self, ray: &Ray) -> Option<Hit> {
        let ground = self.ground.as_ref().and_then(|(_, bvh)| bvh.nearest(ray));
        let mut best = ground.map(|(t, triangle)| Hit { t, triangle, instance: Hit::GROUND });
        let shorter = Ray { t_max: best.map_or(ray.t_max, |h| h.t), ..*ray };
        if let Some((t, triangle, instance)) = self.instances.nearest(&shorter, &self.bvhs) {
            best = Some(Hit { t, triangle, instance });
        }
        best
    }

    /// Whether anything solid lies on the ray before its end. Water does not count.
    pub fn blocks(&self, ray: &Ray) -> bool {
        self.instances.blocks(ray, &self.bvhs) || self.ground.as_ref().is_some_and(|(_, bvh)| bvh.blocks(ray))
    }

    /// What its grounds and built things are made of.
    pub fn sheets(&self) -> &Sheets {
        &self.sheets
    }

    /// Describes a hit for lighting.
    pub fn surface(&self, ray: &Ray, hit: &Hit) -> Surface {
        let position = ray.at(hit.t);
        if hit.instance == Hit::GROUND {
            let (mesh, _) = self.ground.as_ref().expect("only a ground gives a ground hit");
            let mut found = surface(mesh, hit.triangle, position, position, ray, None);
            if let Some(soils) = &self.soils
                && self.land.contains(&hit.triangle)
            {
                let plan = Vec2::new(position.x, position.z);
                found.albedo = soils.over(plan, found.albedo.into()).into();
            }
            self.dress(&mut found, mesh, hit, position, Quat::IDENTITY);
            self.wet(&mut found);
            return found;
        }
        let instance = &self.instances.list()[hit.instance as usize];
        let part = &self.parts[instance.mesh as usize];
        let local = (instance.rotation.inverse() * (position - instance.position)) / instance.scale;
        let mut found = surface(part, hit.triangle, local, position, ray, Some(instance));
        // Pictures have their size on what is larger or smaller than its form.
        if *part.dress != Dress::Plain {
            self.dress(&mut found, part, hit, local, instance.rotation);
        }
        found
    }

    /// Darkens what waves have wet, and gives it a gloss.
    fn wet(&self, found: &mut Surface) {
        let near = self.sea.sea.level_m.is_some_and(|level| found.position.y < level + WETS_M);
        if !near {
            return;
        }
        let wet = self.sea.sea.wets(found.position.to_array());
        found.albedo *= 1.0 - WET_DARKENS * wet;
        found.sheen = found.sheen.max(WET_SHINES * wet);
    }

    /// Gives a point what its mesh is made of: `rest` is where it lies in the mesh's own frame, which has been turned since.
    fn dress(&self, found: &mut Surface, mesh: &Mesh, hit: &Hit, rest: Vec3A, turn: Quat) {
        let weights = weights_at(mesh, hit.triangle as usize, rest);
        let instance = (hit.instance != Hit::GROUND).then(|| &self.instances.list()[hit.instance as usize]);
        let (point, turn) = match (instance, &*mesh.dress) {
            // Beds of a stone stay level, whichever way it is turned.
            (Some(i), Dress::Stone) => (found.position - i.position, Quat::IDENTITY),
            (Some(i), _) => (rest * i.scale, turn),
            (None, _) => (rest, turn),
        };
        let plan = Vec2::new(found.position.x, found.position.z);
        let soils = self.soils.as_ref().filter(|_| instance.is_none() && self.land.contains(&hit.triangle));
        let place = Place {
            triangle: hit.triangle as usize,
            weights,
            point: point.into(),
            normal: (turn.inverse() * found.normal).into(),
            colour: found.albedo.into(),
            away_m: hit.t,
        };
        let over = |earths| soils.map_or(earths, |s| s.earths_over(plan, earths));
        let Some(laid) = mesh.dress.at(mesh, &place, &self.sheets, &self.means, over) else { return };
        found.albedo = (found.albedo * Vec3A::from(laid.tone)).min(Vec3A::ONE);
        found.normal = (found.normal + turn * Vec3A::from(laid.tilt)).normalize_or(found.normal);
        found.sheen = found.sheen.max(laid.shine);
    }
}

fn surface(
    mesh: &Mesh,
    triangle: u32,
    local: Vec3A,
    position: Vec3A,
    ray: &Ray,
    instance: Option<&Instance>,
) -> Surface {
    let corners = [0, 1, 2].map(|i| mesh.indices[triangle as usize * 3 + i] as usize);
    let [a, b, c] = corners.map(|i| Vec3A::from(mesh.positions[i]));
    let weights = weights_at(mesh, triangle as usize, local);
    let blend = |list: &[Vec3]| -> Vec3A { (0..3).map(|i| Vec3A::from(list[corners[i]]) * weights[i]).sum() };
    let mut face = (b - a).cross(c - a).normalize_or(Vec3A::Y);
    let mut normal = blend(&mesh.normals).normalize_or(face);
    let mut albedo = Vec3A::from(mesh.colour_at(triangle as usize, weights).0);
    if let Some(instance) = instance {
        // Normals are stretched the other way.
        face = instance.rotation * (face / instance.scale).normalize_or(face);
        normal = instance.rotation * (normal / instance.scale).normalize_or(normal);
        let own = Vec3A::from(instance.colour.map(|c| f32::from(c) / 128.0));
        albedo = tinted((albedo * own).min(Vec3A::ONE), instance.tint);
    }
    let behind = face.dot(ray.direction) > 0.0;
    // Light through a leaf is yellower than light off it; shares estimated by eye.
    let passes = if mesh.through.is_empty() {
        0.0
    } else {
        (0..3).map(|i| mesh.through[corners[i]] * weights[i]).sum()
    };
    let through = albedo * Vec3A::new(0.62, 0.66, 0.30) * passes;
    if passes <= 0.0 && behind {
        normal = -normal;
    }
    // What full daylight would send back: about one and a half times the reflectance, see `light`.
    let glow = albedo * (mesh.glow * 1.5);
    Surface {
        position,
        face: if behind { -face } else { face },
        normal,
        albedo,
        through,
        sheen: mesh.sheen,
        glow,
    }
}

/// Each plant a little lighter or darker, warmer or cooler than its kind. The view does the same.
fn tinted(albedo: Vec3A, tint: u16) -> Vec3A {
    let light = f32::from(tint & 0xFF) / 255.0 - 0.5;
    let warm = f32::from(tint >> 8) / 255.0 - 0.5;
    (albedo * (1.0 + 0.30 * light) * Vec3A::new(1.0 + 0.16 * warm, 1.0, 1.0 - 0.16 * warm)).min(Vec3A::ONE)
}

//! The paths of an SVG drawing, through the `usvg` crate, which resolves shapes, units and transforms.

use super::{OutlineFileError, outline};
use rookery_core::scene::{Outline, OutlineKind};
use usvg::tiny_skia_path::{PathSegment, Point};
use usvg::{Group, Node, Options, Tree};

/// Straight pieces for a curve.
const PIECES: usize = 12;

/// Closed paths become beds, open ones tracks. A path's id is its name.
pub(super) fn read(bytes: &[u8]) -> Result<Vec<Outline>, OutlineFileError> {
    let bad = |e: usvg::Error| OutlineFileError::BadSvg(e.to_string());
    let tree = Tree::from_data(bytes, &Options::default()).map_err(bad)?;
    let middle = [tree.size().width() * 0.5, tree.size().height() * 0.5];
    let mut out = Vec::new();
    gather(tree.root(), middle, &mut out);
    Ok(out)
}

fn gather(group: &Group, middle: [f32; 2], out: &mut Vec<Outline>) {
    for node in group.children() {
        match node {
            Node::Group(inner) => gather(inner, middle, out),
            Node::Path(path) => {
                let Some(data) = path.data().clone().transform(path.abs_transform()) else { continue };
                let id = path.id();
                for (nodes, closed) in lines(data.segments(), middle) {
                    let kind = if closed { OutlineKind::Bed } else { OutlineKind::Track };
                    let name = if id.is_empty() {
                        format!("Line {}", out.len() + 1)
                    } else {
                        id.chars().take(80).collect()
                    };
                    out.push(outline(name, kind, nodes));
                }
            }
            Node::Image(_) | Node::Text(_) => {}
        }
    }
}

fn lines(segments: impl Iterator<Item = PathSegment>, [mx, mz]: [f32; 2]) -> Vec<(Vec<[f32; 2]>, bool)> {
    let mut out: Vec<(Vec<[f32; 2]>, bool)> = Vec::new();
    let mut line: Vec<Point> = Vec::new();
    let mut finish = |line: &mut Vec<Point>, closed: bool| {
        let mut nodes: Vec<[f32; 2]> = line.iter().map(|p| [p.x - mx, p.y - mz]).collect();
        nodes.dedup();
        let ends_where_it_begins = nodes.len() > 3 && nodes.first() == nodes.last();
        if ends_where_it_begins {
            nodes.pop();
        }
        let closed = (closed || ends_where_it_begins) && nodes.len() > 2;
        if nodes.len() > 1 {
            out.push((nodes, closed));
        }
        line.clear();
    };
    for segment in segments {
        let from = line.last().copied().unwrap_or_default();
        let mix = |a: Point, b: Point, t: f32| Point::from_xy(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t);
        match segment {
            PathSegment::MoveTo(p) => {
                finish(&mut line, false);
                line.push(p);
            }
            PathSegment::LineTo(p) => line.push(p),
            PathSegment::QuadTo(c, p) => line.extend((1..=PIECES).map(|i| {
                let t = i as f32 / PIECES as f32;
                mix(mix(from, c, t), mix(c, p, t), t)
            })),
            PathSegment::CubicTo(c, d, p) => line.extend((1..=PIECES).map(|i| {
                let t = i as f32 / PIECES as f32;
                let (a, b, e) = (mix(from, c, t), mix(c, d, t), mix(d, p, t));
                mix(mix(a, b, t), mix(b, e, t), t)
            })),
            PathSegment::Close => {
                let start = line.first().copied();
                finish(&mut line, true);
                line.extend(start);
            }
        }
    }
    finish(&mut line, false);
    out
}

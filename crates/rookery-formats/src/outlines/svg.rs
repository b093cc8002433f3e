//! The paths of an SVG drawing, through the `usvg` crate, which resolves shapes, units and transforms.

use super::{MOST_OUTLINES, OutlineFileError, outline};
use rookery_core::scene::{Outline, OutlineKind};
use std::collections::HashMap;
use usvg::roxmltree::{self, ParsingOptions};
use usvg::tiny_skia_path::{PathSegment, Point};
use usvg::{Group, ImageHrefResolver, Node, Options, Tree};

/// Straight pieces for a curve.
const PIECES: usize = 12;
/// Elements within one another, at most.
const MOST_DEPTH: usize = 96;
/// Elements, at most, those that stand for others counted as often as they stand.
const MOST_ELEMENTS: u64 = 100_000;

/// Closed paths become beds, open ones tracks. A path's id is its name.
///
/// Nothing but these bytes is read: pictures in a drawing are left out, wherever they lie, and entities are not known.
pub(super) fn read(bytes: &[u8]) -> Result<Vec<Outline>, OutlineFileError> {
    let bad = |e: &dyn std::fmt::Display| OutlineFileError::BadSvg(e.to_string());
    let text = std::str::from_utf8(bytes).map_err(|_| bad(&"it is not in UTF-8; save it uncompressed"))?;
    if text.contains("<!ENTITY") {
        return Err(bad(&"it declares entities; save it as plain SVG"));
    }
    let options =
        ParsingOptions { allow_dtd: true, nodes_limit: MOST_ELEMENTS as u32 * 2, ..Default::default() };
    let depth = deepest(text);
    if depth > MOST_DEPTH {
        return Err(bad(&format!("its elements lie {depth} deep in one another; {MOST_DEPTH} is the limit")));
    }
    let xml = roxmltree::Document::parse_with_options(text, options).map_err(|e| bad(&e))?;
    let count = elements(&xml);
    if count > MOST_ELEMENTS {
        return Err(bad(&format!("it comes to more than {MOST_ELEMENTS} elements; split it")));
    }
    let nothing =
        ImageHrefResolver { resolve_data: Box::new(|_, _, _| None), resolve_string: Box::new(|_, _| None) };
    let tree = Tree::from_xmltree(&xml, &Options { image_href_resolver: nothing, ..Options::default() });
    let tree = tree.map_err(|e| bad(&e))?;
    let middle = [tree.size().width() * 0.5, tree.size().height() * 0.5];
    let mut out = Vec::new();
    gather(tree.root(), middle, &mut out);
    Ok(out)
}

/// How deep elements lie in one another at most, told from the text alone: parsers go down by calling themselves.
fn deepest(text: &str) -> usize {
    let (mut depth, mut most) = (0_usize, 0);
    let mut rest = text;
    while let Some(at) = rest.find('<') {
        rest = &rest[at + 1..];
        let skip = |rest: &'_ str, end: &str| rest.find(end).map_or(rest.len(), |i| i + end.len());
        if rest.starts_with("!--") {
            rest = &rest[skip(rest, "-->")..];
        } else if rest.starts_with("![CDATA[") {
            rest = &rest[skip(rest, "]]>")..];
        } else if rest.starts_with('/') {
            depth = depth.saturating_sub(1);
        } else if !rest.starts_with(['?', '!']) {
            let end = skip(rest, ">");
            if !rest[..end].ends_with("/>") {
                depth += 1;
                most = most.max(depth);
            }
            rest = &rest[end..];
        }
    }
    most
}

/// All elements, each that stands for another (`use`, markers, patterns and the like) counted with all that it stands for.
fn elements(xml: &roxmltree::Document<'_>) -> u64 {
    let named: HashMap<&str, roxmltree::Node<'_, '_>> =
        xml.descendants().filter_map(|n| Some((n.attribute("id")?, n))).collect();
    let mut known = HashMap::new();
    weight(xml.root(), &named, &mut known, 0)
}

type Named<'a, 'i> = HashMap<&'a str, roxmltree::Node<'a, 'i>>;

fn weight<'a, 'i>(
    node: roxmltree::Node<'a, 'i>,
    named: &Named<'a, 'i>,
    known: &mut HashMap<roxmltree::NodeId, u64>,
    depth: usize,
) -> u64 {
    if let Some(weight) = known.get(&node.id()) {
        return *weight;
    }
    // What names itself, or goes on and on, is too much in any case.
    if depth > MOST_DEPTH * 4 {
        return MOST_ELEMENTS + 1;
    }
    known.insert(node.id(), 0);
    let mut sum = 1_u64;
    for child in node.children() {
        sum = sum.saturating_add(weight(child, named, known, depth + 1));
    }
    for attribute in node.attributes() {
        let value = attribute.value();
        let name = value.strip_prefix('#').or_else(|| value.split_once("url(#")?.1.split(')').next());
        if let Some(target) = name.and_then(|name| named.get(name)) {
            // A marker stands at each corner of its path.
            let times = if attribute.name().starts_with("marker") || value.contains("marker") {
                node.attribute("d").or(node.attribute("points")).map_or(1, |d| d.len() as u64)
            } else {
                1
            };
            sum = sum.saturating_add(weight(*target, named, known, depth + 1).saturating_mul(times));
        }
    }
    known.insert(node.id(), sum);
    sum
}

fn gather(group: &Group, middle: [f32; 2], out: &mut Vec<Outline>) {
    for node in group.children() {
        // More is refused anyway.
        if out.len() > MOST_OUTLINES {
            return;
        }
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

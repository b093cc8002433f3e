//! The same formulas for the view, written out from the same numbers.

use super::gusts::WAVES;
use super::response::{OWN_HZ, OWN_M, SOFT};
use crate::air::LEVELS;
use crate::math::limb::GAUSS;
use crate::math::sine::SINE;

/// The part of a vertex shader that bends plants, as text: a sine of turns, what a plant is turned by (`swayed`), and where a point that
/// hangs on a limb comes to (`bent`). Names of uniforms: `uWaves` and `uSwells` hold the waves at a moment, `uFrame` where the wind blows
/// to and the size of gusts, `uSway` frequency, damping, load and the most that a tip is turned, `uUnrest` what gusts add along and across, the power
/// of the speed and the height that it is met at; `uFlow` the mean wind over the land (x, height, z), `uFlowAt` the middle of its first cell, their
/// distance and whether it counts, `uFlowHeights` the heights of its cells.
pub fn glsl() -> String {
    let [a, b, c, d, e] = SINE;
    let [(x0, w0), (x1, w1), (x2, w2)] = GAUSS;
    let rounded = |v: f32| format!("{v:.9}");
    let [a, b, c, d, e] = [a, b, c, d, e].map(rounded);
    let [x0, w0, x1, w1, x2, w2] = [x0, w0, x1, w1, x2, w2].map(rounded);
    let (soft, back, own_hz, own_m) = (rounded(SOFT), rounded(1.0 / SOFT), rounded(OWN_HZ), rounded(OWN_M));
    format!(
        r"uniform vec4 uWaves[{WAVES}];
uniform vec2 uSwells[{WAVES}];
uniform vec3 uFrame;
uniform vec4 uSway;
uniform vec4 uUnrest;
uniform highp sampler3D uFlow;
uniform vec4 uFlowAt;
uniform float uFlowHeights[{LEVELS}];
float sinTurns(float turns) {{
  float u = turns - floor(turns + 0.5);
  if (abs(u) > 0.25) u = sign(u) * 0.5 - u;
  float z = 2.0 * u;
  float q = z * z;
  return z * ({a} + q * ({b} + q * ({c} + q * ({d} + q * {e}))));
}}
vec2 flowIn(ivec3 cell) {{
  return texelFetch(uFlow, cell, 0).xy;
}}
vec2 flowAt(vec3 p) {{
  ivec3 cells = textureSize(uFlow, 0);
  vec2 t = clamp((p.xz - uFlowAt.xy) / uFlowAt.z, vec2(0.0), vec2(cells.xz - 1));
  ivec2 i = min(ivec2(t), cells.xz - 2);
  vec2 f = t - vec2(i);
  int y = 0;
  float g = 0.0;
  for (int k = 0; k < {LEVELS} - 1; k++) {{
    if (p.y >= uFlowHeights[k]) {{
      y = k;
      g = min((p.y - uFlowHeights[k]) / (uFlowHeights[k + 1] - uFlowHeights[k]), 1.0);
    }}
  }}
  ivec3 c = ivec3(i.x, y, i.y);
  vec2 near = mix(
    mix(flowIn(c), flowIn(c + ivec3(1, 0, 0)), f.x),
    mix(flowIn(c + ivec3(0, 1, 0)), flowIn(c + ivec3(1, 1, 0)), f.x), g);
  vec2 far = mix(
    mix(flowIn(c + ivec3(0, 0, 1)), flowIn(c + ivec3(1, 0, 1)), f.x),
    mix(flowIn(c + ivec3(0, 1, 1)), flowIn(c + ivec3(1, 1, 1)), f.x), g);
  return mix(near, far, f.y);
}}
vec2 swayed(vec3 foot, float size, vec2 own) {{
  vec2 at = foot.xz;
  vec2 way = uFrame.xy;
  float load = uSway.z;
  if (uFlowAt.w > 0.5) {{
    vec2 local = flowAt(vec3(foot.x, foot.y + uUnrest.w, foot.z));
    float times = length(local);
    if (times < 1e-6) return vec2(0.0);
    way = local / times;
    load *= pow(times, uUnrest.z);
  }}
  vec2 uv = own / 127.5 - 1.0;
  float w = mod(own.x * 53.0 + own.y * 29.0, 256.0) / 127.5 - 1.0;
  float hz = uSway.x / size * (1.0 + {own_hz} * uv.x);
  vec2 p = at + {own_m} * vec2(uv.y, w);
  float l = uFrame.z;
  float along = p.x * uFrame.x + p.y * uFrame.y;
  float across = p.y * uFrame.x - p.x * uFrame.y;
  vec2 f = vec2(
    along + 0.3 * l * sinTurns(across / (4.3 * l) + 0.13 + along / (10.0 * l)),
    across + 0.3 * l * sinTurns(along / (5.3 * l) + 0.41 - across / (9.8 * l)));
  vec2 sum = vec2(0.0);
  for (int i = 0; i < {WAVES}; i++) {{
    vec4 wave = uWaves[i];
    float r = uSwells[i].y / hz;
    float stiff = 1.0 - r * r;
    float damped = 2.0 * uSway.y * r;
    float turns = wave.z - (wave.x * f.x + wave.y * f.y);
    float answer = (stiff * sinTurns(turns + 0.25) + damped * sinTurns(turns)) / (stiff * stiff + damped * damped);
    sum += vec2(wave.w, uSwells[i].x) * answer;
  }}
  vec2 push = load * vec2(1.0 + uUnrest.x * sum.x, uUnrest.y * sum.y);
  float held = 1.0 / pow(1.0 + pow(length(push) / uSway.w, {soft}), {back});
  return vec2(push.x * way.x - push.y * way.y, push.x * way.y + push.y * way.x) * held;
}}
float gamma(float s) {{
  float rest = 1.0 - s;
  return 1.0 - rest * rest * rest;
}}
vec3 turnedBy(vec3 v, vec3 about, float angle) {{
  float turns = angle * 0.159154943;
  float co = sinTurns(turns + 0.25);
  return v * co + cross(about, v) * sinTurns(turns) + about * (dot(about, v) * (1.0 - co));
}}
vec3 bent(vec2 theta, float s, vec3 foot, vec3 set, vec3 curve, vec3 point) {{
  float angle = length(theta);
  if (angle < 1e-6 || s <= 0.0) return point;
  vec3 about = vec3(theta.y, 0.0, -theta.x) / angle;
  vec3 at = foot;
  at += turnedBy(set + curve * (s * {x0}), about, angle * gamma(s * {x0})) * (s * {w0});
  at += turnedBy(set + curve * (s * {x1}), about, angle * gamma(s * {x1})) * (s * {w1});
  at += turnedBy(set + curve * (s * {x2}), about, angle * gamma(s * {x2})) * (s * {w2});
  return at + turnedBy(point - foot - set * s - curve * (s * s * 0.5), about, angle * gamma(s));
}}
vec3 bentWay(vec2 theta, float s, vec3 way) {{
  float angle = length(theta);
  if (angle < 1e-6 || s <= 0.0) return way;
  return turnedBy(way, vec3(theta.y, 0.0, -theta.x) / angle, angle * gamma(s));
}}
"
    )
}

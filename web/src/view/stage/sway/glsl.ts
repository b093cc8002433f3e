// Written from rookery-core/src/motion/glsl.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.
export const SWAY_GLSL = /* glsl */ `
uniform vec4 uWaves[24];
uniform vec2 uSwells[24];
uniform vec3 uFrame;
uniform vec4 uSway;
uniform vec4 uUnrest;
uniform highp sampler3D uFlow;
uniform vec4 uFlowAt;
uniform float uFlowHeights[24];
float sinTurns(float turns) {
  float u = turns - floor(turns + 0.5);
  if (abs(u) > 0.25) u = sign(u) * 0.5 - u;
  float z = 2.0 * u;
  float q = z * z;
  return z * (3.141592741 + q * (-5.167709827 + q * (2.550069571 + q * (-0.598241210 + q * 0.077558637))));
}
vec2 flowIn(ivec3 cell) {
  return texelFetch(uFlow, cell, 0).xy;
}
vec2 flowAt(vec3 p) {
  ivec3 cells = textureSize(uFlow, 0);
  vec2 t = clamp((p.xz - uFlowAt.xy) / uFlowAt.z, vec2(0.0), vec2(cells.xz - 1));
  ivec2 i = min(ivec2(t), cells.xz - 2);
  vec2 f = t - vec2(i);
  int y = 0;
  float g = 0.0;
  for (int k = 0; k < 24 - 1; k++) {
    if (p.y >= uFlowHeights[k]) {
      y = k;
      g = min((p.y - uFlowHeights[k]) / (uFlowHeights[k + 1] - uFlowHeights[k]), 1.0);
    }
  }
  ivec3 c = ivec3(i.x, y, i.y);
  vec2 near = mix(
    mix(flowIn(c), flowIn(c + ivec3(1, 0, 0)), f.x),
    mix(flowIn(c + ivec3(0, 1, 0)), flowIn(c + ivec3(1, 1, 0)), f.x), g);
  vec2 far = mix(
    mix(flowIn(c + ivec3(0, 0, 1)), flowIn(c + ivec3(1, 0, 1)), f.x),
    mix(flowIn(c + ivec3(0, 1, 1)), flowIn(c + ivec3(1, 1, 1)), f.x), g);
  return mix(near, far, f.y);
}
vec2 swayed(vec3 foot, float size, vec2 own) {
  vec2 at = foot.xz;
  vec2 way = uFrame.xy;
  float load = uSway.z;
  if (uFlowAt.w > 0.5) {
    vec2 local = flowAt(vec3(foot.x, foot.y + uUnrest.w, foot.z));
    float times = length(local);
    if (times < 1e-6) return vec2(0.0);
    way = local / times;
    load *= pow(times, uUnrest.z);
  }
  vec2 uv = own / 127.5 - 1.0;
  float w = mod(own.x * 53.0 + own.y * 29.0, 256.0) / 127.5 - 1.0;
  float hz = uSway.x / size * (1.0 + 0.150000006 * uv.x);
  vec2 p = at + 0.400000006 * vec2(uv.y, w);
  float l = uFrame.z;
  float along = p.x * uFrame.x + p.y * uFrame.y;
  float across = p.y * uFrame.x - p.x * uFrame.y;
  vec2 f = vec2(
    along + 0.3 * l * sinTurns(across / (4.3 * l) + 0.13 + along / (10.0 * l)),
    across + 0.3 * l * sinTurns(along / (5.3 * l) + 0.41 - across / (9.8 * l)));
  vec2 sum = vec2(0.0);
  for (int i = 0; i < 24; i++) {
    vec4 wave = uWaves[i];
    float r = uSwells[i].y / hz;
    float stiff = 1.0 - r * r;
    float damped = 2.0 * uSway.y * r;
    float turns = wave.z - (wave.x * f.x + wave.y * f.y);
    float answer = (stiff * sinTurns(turns + 0.25) + damped * sinTurns(turns)) / (stiff * stiff + damped * damped);
    sum += vec2(wave.w, uSwells[i].x) * answer;
  }
  vec2 push = load * vec2(1.0 + uUnrest.x * sum.x, uUnrest.y * sum.y);
  float held = 1.0 / pow(1.0 + pow(length(push) / uSway.w, 1.200000048), 0.833333313);
  return vec2(push.x * way.x - push.y * way.y, push.x * way.y + push.y * way.x) * held;
}
float gamma(float s) {
  float rest = 1.0 - s;
  return 1.0 - rest * rest * rest;
}
vec3 turnedBy(vec3 v, vec3 about, float angle) {
  float turns = angle * 0.159154943;
  float co = sinTurns(turns + 0.25);
  return v * co + cross(about, v) * sinTurns(turns) + about * (dot(about, v) * (1.0 - co));
}
vec3 bent(vec2 theta, float s, vec3 foot, vec3 set, vec3 curve, vec3 point) {
  float angle = length(theta);
  if (angle < 1e-6 || s <= 0.0) return point;
  vec3 about = vec3(theta.y, 0.0, -theta.x) / angle;
  vec3 at = foot;
  at += turnedBy(set + curve * (s * 0.112701669), about, angle * gamma(s * 0.112701669)) * (s * 0.277777791);
  at += turnedBy(set + curve * (s * 0.500000000), about, angle * gamma(s * 0.500000000)) * (s * 0.444444448);
  at += turnedBy(set + curve * (s * 0.887298346), about, angle * gamma(s * 0.887298346)) * (s * 0.277777791);
  return at + turnedBy(point - foot - set * s - curve * (s * s * 0.5), about, angle * gamma(s));
}
vec3 bentWay(vec2 theta, float s, vec3 way) {
  float angle = length(theta);
  if (angle < 1e-6 || s <= 0.0) return way;
  return turnedBy(way, vec3(theta.y, 0.0, -theta.x) / angle, angle * gamma(s));
}
`

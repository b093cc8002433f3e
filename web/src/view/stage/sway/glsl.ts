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
uniform highp sampler2D uBlown;
uniform vec4 uBlowers[8];
uniform vec2 uBlowersTo[8];
uniform vec4 uBlowersIn[8];
uniform highp sampler2D uTracks;
uniform vec4 uBodies[8];
uniform vec4 uBodiesIn[8];
uniform ivec2 uMany;
uniform float uNow;
uniform vec4 uStem;
uniform float uBlownBy;
uniform float uFlutter;
uniform vec4 uFlutterTurns;
uniform highp sampler2D uRides;
uniform vec4 uRideBy[4];
uniform vec4 uRideTurn[4];
uniform vec4 uRidePull[4];
uniform vec4 uRideSlope[4];
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
vec2 blownFrom(int nth, vec3 at, vec3 from) {
  vec4 b = uBlowers[nth];
  vec3 to = at - from;
  float left = 1.0 - dot(to, to) / (b.y * b.y);
  if (left <= 0.0) return vec2(0.0);
  float soft = 0.150000006 * b.y;
  vec2 way = b.w > 0.5 ? to.xz / sqrt(dot(to.xz, to.xz) + soft * soft) : uBlowersTo[nth];
  return way * (b.x * pow(left, b.z));
}
vec2 blown(vec3 at, float hz) {
  vec2 all = vec2(0.0);
  for (int nth = 0; nth < uMany.x; nth++) {
    vec3 off = at - uBlowersIn[nth].xyz;
    if (dot(off, off) >= uBlowersIn[nth].w * uBlowersIn[nth].w) continue;
    float between = 1.250000000 / hz;
    vec2 sum = vec2(0.0);
    float weights = 0.0;
    for (int k = 0; k < 32; k++) {
      float turns = (float(k) + 0.5) / 8.000000000;
      float weight = exp(-uSway.y * 6.283185307 * turns) * sinTurns(turns);
      weights += weight;
      float back = min((float(k) + 0.5) * between, float(64 - 1));
      int i = min(int(back), 64 - 2);
      vec3 was = mix(texelFetch(uBlown, ivec2(i, nth), 0).xyz, texelFetch(uBlown, ivec2(i + 1, nth), 0).xyz, back - float(i));
      vec2 wind = blownFrom(nth, at, was);
      float speed = length(wind);
      if (speed > 1e-6) sum += wind * (weight * pow(speed, uUnrest.z) / speed);
    }
    all += sum / weights;
  }
  return all;
}
float nearness(float part2) {
  float left = 1.0 - part2 * part2;
  return part2 < 1.0 ? left * left : 0.0;
}
vec2 unit2(vec2 v) {
  float l = length(v);
  return l > 0.0 ? v / l : vec2(0.0);
}
vec2 laid(vec2 lies, float from, float least2, float nearest, vec2 aside, vec2 way, float bottom, float gone, int nth, float reach, vec3 foot, float tall, float hz) {
  if (uNow < from) return lies;
  float part2 = least2 / (reach * reach);
  float over = clamp((bottom - foot.y) / tall, 0.0, 1.0);
  float small = min(4.000000000 * uBodies[nth].x / tall, 1.0);
  float most = (1.0 - over) * small * small;
  float full = nearness(part2);
  float down = full;
  if (uNow < nearest) {
    vec2 off = uBodies[nth].zw - foot.xz;
    down = nearness(dot(off, off) / (reach * reach));
  }
  float now = down;
  if (uNow >= gone) {
    float since = uNow - gone;
    float own = sqrt(1.0 - uSway.y * uSway.y);
    float turns = hz * own * since;
    float fades = exp(-uSway.y * 6.283185307 * hz * since);
    now = full * (uStem.w + (1.0 - uStem.w) * fades * (sinTurns(turns + 0.25) + uSway.y / own * sinTurns(turns)));
  }
  float part = sqrt(part2);
  vec2 to = unit2(unit2(aside) * part + unit2(way) * (1.0 - part));
  return lies * (1.0 - most * down) + to * (most * now);
}
vec2 pressed(vec3 foot, float size, float hz) {
  vec2 lies = vec2(0.0);
  float tall = uStem.x * size;
  for (int nth = 0; nth < uMany.y; nth++) {
    vec4 body = uBodies[nth];
    float reach = body.x + min(uStem.y * size, 0.500000000 * body.x);
    vec4 box = uBodiesIn[nth];
    if (foot.x < box.x - reach || foot.z < box.y - reach || foot.x > box.z + reach || foot.z > box.w + reach) continue;
    int n = int(body.y);
    bool open = false;
    float from = 0.0;
    float least2 = 0.0;
    float nearest = 0.0;
    vec2 aside = vec2(0.0);
    vec2 way = vec2(0.0);
    float bottom = 0.0;
    vec4 b = texelFetch(uTracks, ivec2(0, nth), 0);
    for (int i = 0; i < n; i++) {
      vec4 a = b;
      b = texelFetch(uTracks, ivec2(min(i + 1, n - 1), nth), 0);
      vec2 by = b.xy - a.xy;
      vec2 off = a.xy - foot.xz;
      float long2 = dot(by, by);
      float along = dot(off, by);
      float off2 = dot(off, off) - reach * reach;
      float into = 2.0;
      float leaves = 2.0;
      if (long2 < 1e-12) {
        if (off2 < 0.0) {
          into = 0.0;
          leaves = 1.0;
        }
      } else {
        float root = along * along - long2 * off2;
        if (root > 0.0) {
          into = (-along - sqrt(root)) / long2;
          leaves = (-along + sqrt(root)) / long2;
        }
      }
      bool far = into >= 1.0 || leaves <= 0.0;
      if (open && (far || into > 0.0)) {
        lies = laid(lies, from, least2, nearest, aside, way, bottom, a.z, nth, reach, foot, tall, hz);
        open = false;
      }
      if (far) continue;
      float u = long2 < 1e-12 ? 0.0 : clamp(-along / long2, 0.0, 1.0);
      vec2 near = off + by * u;
      if (!open) from = i == 0 && into <= 0.0 ? -1e9 : a.z + (b.z - a.z) * max(into, 0.0);
      if (!open || dot(near, near) < least2) {
        least2 = dot(near, near);
        nearest = a.z + (b.z - a.z) * u;
        aside = -near;
        way = by;
        bottom = a.w + (b.w - a.w) * u;
      }
      open = true;
      if (leaves < 1.0) {
        lies = laid(lies, from, least2, nearest, aside, way, bottom, a.z + (b.z - a.z) * leaves, nth, reach, foot, tall, hz);
        open = false;
      }
    }
    if (open) lies = laid(lies, from, least2, nearest, aside, way, bottom, 1e9, nth, reach, foot, tall, hz);
  }
  return lies;
}
float fluttering(float theta, float phase) {
  float turns = phase < 1.0 ? uFlutterTurns.x : phase < 2.0 ? uFlutterTurns.y : phase < 3.0 ? uFlutterTurns.z : uFlutterTurns.w;
  return 0.300000012 * min(1.0, uFlutter * theta) * sinTurns(turns + phase);
}
vec3 carriedWay(vec3 v, int ride) {
  if (ride < 0) return v;
  vec2 t = uRideTurn[ride].xy;
  return vec3(v.x * t.x - v.z * t.y, v.y, v.x * t.y + v.z * t.x);
}
vec3 carried(vec3 p, int ride) {
  if (ride < 0) return p;
  vec3 about = vec3(uRideTurn[ride].z, 0.0, uRideTurn[ride].w);
  return about + uRideBy[ride].xyz + carriedWay(p - about, ride);
}
vec2 lagging(vec3 foot, float hz, int ride) {
  float omega = 6.283185307 * hz;
  float softness = 1.0 / (omega * omega);
  float behind = 2.0 * uSway.y / omega;
  float own = sqrt(1.0 - uSway.y * uSway.y);
  vec3 sum = -(uRidePull[ride].xyz - uRideSlope[ride].xyz * behind) * softness;
  int past = int(uRideBy[ride].w);
  for (int i = 0; i < past; i++) {
    vec4 jump = texelFetch(uRides, ivec2(2 * i, ride), 0);
    float gone = uSway.y * omega * jump.w;
    if (gone > 12.000000000) continue;
    vec3 bends = texelFetch(uRides, ivec2(2 * i + 1, ride), 0).xyz;
    vec3 from = (jump.xyz - bends * behind) * softness;
    vec3 sine = (bends * softness + from * (uSway.y * omega)) / (omega * own);
    float turns = hz * own * jump.w;
    sum += (from * sinTurns(turns + 0.25) + sine * sinTurns(turns)) * exp(-gone);
  }
  vec2 off = foot.xz - uRideTurn[ride].zw - uRideBy[ride].xz;
  return (sum.xy + vec2(-off.y, off.x) * sum.z) * 1.565999985;
}
vec2 swayed(vec3 foot, float size, vec2 own, int ride) {
  vec2 at = foot.xz;
  vec2 way = uFrame.xy;
  float load = uSway.z;
  if (uFlowAt.w > 0.5) {
    vec2 local = flowAt(vec3(foot.x, foot.y + uUnrest.w, foot.z));
    float times = length(local);
    way = times < 1e-6 ? vec2(0.0) : local / times;
    load *= times < 1e-6 ? 0.0 : pow(times, uUnrest.z);
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
  float stirred = 1.0 + uUnrest.x * sum.x;
  vec2 push = load * vec2(stirred, uUnrest.y * sum.y);
  push = vec2(push.x * way.x - push.y * way.y, push.x * way.y + push.y * way.x);
  if (uBlownBy > 0.0 && uMany.x > 0) push += blown(vec3(foot.x, foot.y + uUnrest.w, foot.z), hz) * (uBlownBy * stirred);
  if (ride >= 0) push += lagging(foot, hz, ride) * (1.333333333 / (uStem.x * size));
  float held = 1.0 / pow(1.0 + pow(length(push) / uSway.w, 1.200000048), 0.833333313);
  if (uMany.y == 0) return push * held;
  vec2 lies = pressed(foot, size, hz);
  return push * held * max(1.0 - length(lies), 0.0) + lies * uStem.z;
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

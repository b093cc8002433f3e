// Written from rookery-core/src/textures/glsl.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.
export const TEXTURES_GLSL = /* glsl */ `
precision highp sampler2DArray;
uniform sampler2DArray uSheets;
uniform sampler2DArray uSheetSlopes;
// Their sizes, four in each: numbers in a list that a pixel chooses from cost a processor more than all else here.
uniform vec4 uSheetSizes[3];
// Their mean gloss.
uniform vec4 uSheetShines[3];
uniform float uSheetSide;
// 0 while the picture moves: then a ground is of one earth, from one side, without relief and grains, and so are the rest.
uniform int uFine;
// Colours of the earths: as they usually are, and in this scene; last 1 for those that wear pictures.
uniform vec3 uEarthMeans[5];
uniform vec4 uEarthOwn[5];

// Metres of a surface to a pixel, between how far it is seen along and across.
float pixelOf(vec3 p) {
  return sqrt(length(dFdx(p)) * length(dFdy(p)) + 1e-12);
}

float hashed(int x, int y) {
  uint h = uint(x) * 374761393u ^ uint(y) * 668265263u;
  h = (h ^ (h >> 13)) * 1274126177u;
  return float((h ^ (h >> 16)) >> 8) / 16777216.0;
}

// Which shift a place of a surface has, metres along both sides; between two whole numbers there is some of both.
float shiftAt(vec2 place) {
  vec2 at = place * 0.31;
  ivec2 c = ivec2(floor(at));
  vec2 t = at - floor(at);
  t = t * t * (3.0 - 2.0 * t);
  float north = mix(hashed(c.x, c.y), hashed(c.x + 1, c.y), t.x);
  float south = mix(hashed(c.x, c.y + 1), hashed(c.x + 1, c.y + 1), t.x);
  return mix(north, south, t.y) * 8.0;
}

vec2 shifted(int n) {
  return vec2(hashed(n, 7919), hashed(n, 104729));
}

// How pictures are shifted about a place, so that no eye finds where they repeat: two shifts, and how much of the second shows.
vec4 shiftsAt(vec2 place, out float share) {
  float which = shiftAt(place);
  int n = int(which);
  share = clamp((which - float(n) - 0.3) / 0.4, 0.0, 1.0);
  share = share * share * (3.0 - 2.0 * share);
  return vec4(shifted(n), shifted(n + 1));
}

float ofFour(vec4 v, int i) {
  return i == 0 ? v.x : i == 1 ? v.y : i == 2 ? v.z : v.w;
}

// Metres along a side of a picture.
float sizeOf(int sheet) {
  return sheet < 4 ? ofFour(uSheetSizes[0], sheet) : sheet < 8 ? ofFour(uSheetSizes[1], sheet - 4) : ofFour(uSheetSizes[2], sheet - 8);
}

float shineOf(int sheet) {
  return sheet < 4 ? ofFour(uSheetShines[0], sheet) : sheet < 8 ? ofFour(uSheetShines[1], sheet - 4) : ofFour(uSheetShines[2], sheet - 8);
}

// A picture at a place, a pixel being so many metres. How it rises along both sides, and its gloss, are only looked up where so much relief of it is left.
vec4 sheetAt(int sheet, vec2 place, vec4 shifts, float share, float px, float relief, out vec3 slope) {
  float size = sizeOf(sheet);
  float lod = log2(px * uSheetSide / size);
  vec2 uv = place / size;
  vec4 found = vec4(0.0);
  slope = vec3(0.0, 0.0, shineOf(sheet) * (uFine > 0 ? 1.0 - relief : 1.0));
  share = uFine > 0 ? share : step(0.5, share);
  int last = share > 0.0 ? 2 : 1, rises = relief > 0.0 ? uFine : 0;
  for (int k = share < 1.0 ? 0 : 1; k < last; k++) {
    vec3 look = vec3(uv + (k == 0 ? shifts.xy : shifts.zw) * (sheet == 5 ? vec2(1.0, 0.0) : vec2(1.0)), float(sheet));
    float much = k == 0 ? 1.0 - share : share;
    found += textureLod(uSheets, look, lod) * much;
    for (int j = 0; j < rises; j++) {
      vec3 there = textureLod(uSheetSlopes, look, lod).rgb;
      slope += vec3((there.rg * 255.0 - 128.0) * (2.0 / 127.0), there.b) * (relief * much);
    }
  }
  return vec4(found.rgb * 2.0, found.a);
}

// How much of a picture's relief is left so far away.
float reliefOf(int sheet, float away) {
  float left = max(1.0 - away / (90.0 * sizeOf(sheet)), 0.0);
  return left * left;
}

// Pictures laid along the two axes that a surface faces most: from above, or from a side. How that tilts its normal, and its gloss.
vec4 twoWays(vec3 p, vec3 facing, int top, int side, float px, float away, out vec4 tilt) {
  vec3 w = facing.yxz * facing.yxz;
  w *= w;
  w /= w.x + w.y + w.z;
  int first = w.x >= max(w.y, w.z) ? 0 : w.y >= w.z ? 1 : 2;
  int last = w.x < min(w.y, w.z) ? 0 : w.y < w.z ? 1 : 2;
  int second = 3 - first - last;
  float least = max(min(w.x, min(w.y, w.z)), 0.05);
  float most = max(w.x, max(w.y, w.z)) - least + 1e-4;
  float next = max(1.0 - max(w.x, max(w.y, w.z)) - min(w.x, min(w.y, w.z)) - least, 0.0);
  vec4 found = vec4(0.0);
  tilt = vec4(0.0);
  int turns = next > 0.0 ? 1 + uFine : 1;
  for (int k = 0; k < turns; k++) {
    int axis = k == 0 ? first : second;
    float much = (k == 0 ? most : next) / (most + next);
    int sheet = axis == 0 ? top : side;
    vec2 place = axis == 0 ? p.xz : axis == 1 ? vec2(p.z + 0.37, p.y) : vec2(p.x + 0.71, p.y);
    float share;
    vec4 shifts = shiftsAt(place, share);
    vec3 s;
    found += much * sheetAt(sheet, place, shifts, share, px, reliefOf(sheet, away), s);
    tilt += much * vec4(axis == 0 ? vec3(-s.x, 0.0, -s.y) : axis == 1 ? vec3(0.0, -s.y, -s.x) : vec3(-s.xy, 0.0), s.z);
  }
  return found;
}

// Grains over what is laid, seen from near by; u and v are the sides of their picture.
void grit(vec2 place, vec3 u, vec3 v, float much, float px, inout vec3 tone, inout vec4 tilt) {
  int turns = much > 0.0 ? uFine : 0;
  for (int k = 0; k < turns; k++) {
    vec3 s;
    tone *= 1.0 + (sheetAt(6, place, vec4(0.0), 0.0, px, much, s).rgb - 1.0) * much;
    tilt.xyz -= u * s.x + v * s.y;
  }
}

// From the side that faces them most: nobody sees where that changes.
void gritted(vec3 p, vec3 n, float px, float away, inout vec3 tone, inout vec4 tilt) {
  vec3 w = abs(n);
  bool top = w.y > max(w.x, w.z), east = w.x > w.z;
  vec3 u = !top && east ? vec3(0.0, 0.0, 1.0) : vec3(1.0, 0.0, 0.0);
  vec3 v = top ? vec3(0.0, 0.0, 1.0) : vec3(0.0, 1.0, 0.0);
  grit(vec2(dot(p, u), dot(p, v)), u, v, 1.0 - away / 9.0, px, tone, tilt);
}
`

export const EARTHS_GLSL = /* glsl */ `
// The two earths there is most of, and how much of each; of the third that much.
ivec2 most_ = ivec2(0);
vec3 much_ = vec3(0.0);
void take(int earth, float share) {
  bool first = share > much_.x, second = share > much_.y;
  much_.z = second ? much_.y : max(much_.z, share);
  most_.y = first ? most_.x : second ? earth : most_.y;
  much_.y = first ? much_.x : second ? share : much_.y;
  most_.x = first ? earth : most_.x;
  much_.x = first ? share : much_.x;
}

vec3 meanOf(int earth) {
  return earth == 0 ? uEarthMeans[0] : earth == 1 ? uEarthMeans[1] : earth == 2 ? uEarthMeans[2] : earth == 3 ? uEarthMeans[3] : uEarthMeans[4];
}

vec4 ownOf(int earth) {
  return earth == 0 ? uEarthOwn[0] : earth == 1 ? uEarthOwn[1] : earth == 2 ? uEarthOwn[2] : earth == 3 ? uEarthOwn[3] : uEarthOwn[4];
}

// What patches make of an earth's mean. Under pictures that were brought they are lighter and darker, but not in the hues of another earth.
vec3 patched(vec4 own, vec3 colour, vec3 usual) {
  vec3 light = vec3(0.2126, 0.7152, 0.0722);
  return own.rgb * mix(colour / usual, vec3(dot(colour, light) / dot(usual, light)), own.a);
}

// While the picture moves: of the earth there is most of, from the side that faces it most, level and without grains and gloss.
vec3 onGroundAtOnce(vec3 p, vec3 n, vec3 colour, vec4 earths, float px) {
  float turf = 1.0 - dot(earths, vec4(1.0));
  float most = max(max(max(earths.x, earths.y), max(earths.z, earths.w)), turf);
  int earth = most == turf ? 0 : most == earths.x ? 1 : most == earths.y ? 2 : most == earths.z ? 3 : 4;
  vec3 w = abs(n) * vec3(1.0, earth == 4 ? 0.62 : 1.0, 1.0);
  bool top = w.y >= max(w.x, w.z), east = w.x >= w.z;
  vec2 place = top ? p.xz : east ? vec2(p.z + 0.37, p.y) : vec2(p.x + 0.71, p.y);
  int sheet = earth == 4 && !top ? 5 : earth;
  float size = sizeOf(sheet);
  vec2 uv = place / size + shifted(int(shiftAt(place) + 0.5)) * (sheet == 5 ? vec2(1.0, 0.0) : vec2(1.0));
  return textureLod(uSheets, vec3(uv, float(sheet)), log2(px * uSheetSide / size)).rgb * 2.0 * mix(colour, patched(ownOf(earth), colour, meanOf(earth)), ownOf(earth).a);
}

vec3 onGround(vec3 p, vec3 n, vec3 colour, vec4 earths, float px, float away, out vec4 tilt) {
  tilt = vec4(0.0);
  // A loop that takes no turn is skipped, where both sides of an if are worked out.
  for (int k = uFine; k < 1; k++) return onGroundAtOnce(p, n, colour, earths, px);
  take(0, 1.0 - dot(earths, vec4(1.0)));
  take(1, earths.x);
  take(2, earths.y);
  take(3, earths.z);
  take(4, earths.w);
  float least = max(much_.z, 0.08);
  float most = much_.x - least + 1e-4, next = max(much_.y - least, 0.0);
  vec3 own = vec3(0.0);
  vec3 usual = (meanOf(most_.x) * most + meanOf(most_.y) * next) / (most + next);
  float all = 0.0;
  int turns = next > 0.0 ? 2 : 1;
  for (int k = 0; k < turns; k++) {
    int earth = k == 0 ? most_.x : most_.y;
    float share = k == 0 ? most : next;
    bool rock = earth == 4;
    vec4 leans;
    vec4 found = twoWays(p, rock ? n * vec3(1.0, 0.62, 1.0) : n, earth, rock ? 5 : earth, px, away, leans);
    // What stands higher shows over the other.
    float shows = share * exp2(5.0 * (found.a - 0.5));
    own += patched(ownOf(earth), colour, usual) * found.rgb * shows;
    tilt += leans * shows;
    all += shows;
  }
  tilt /= all;
  vec3 tone = own / all;
  gritted(p, n, px, away, tone, tilt);
  return tone;
}
`

export const STONE_GLSL = /* glsl */ `
vec3 onStone(vec3 p, vec3 n, float px, float away, out vec4 tilt) {
  vec3 tone = twoWays(p, n, 4, 4, px, away, tilt).rgb;
  gritted(p, n, px, away, tone, tilt);
  return tone;
}
`

export const BUILT_GLSL = /* glsl */ `
vec3 onBuilt(vec2 place, int sheet, vec3 n, float px, float away, out vec4 tilt) {
  vec3 along = abs(n.y) > 0.99 ? vec3(1.0, 0.0, 0.0) : normalize(cross(vec3(0.0, 1.0, 0.0), n));
  vec3 up = cross(n, along);
  vec3 s;
  vec3 tone = sheetAt(sheet, place, vec4(0.0), 0.0, px, reliefOf(sheet, away), s).rgb;
  tilt = vec4(-(along * s.x + up * s.y), 0.0);
  grit(place, along, up, 0.6 * (1.0 - away / 9.0), px, tone, tilt);
  return tone;
}
`

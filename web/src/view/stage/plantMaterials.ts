import { DoubleSide, FrontSide, ShaderMaterial, Vector2, Vector3, Vector4 } from 'three'
import type { Species } from '../../api/client'
import { SLOTS } from './blocks'
import { LIGHT_GLSL, lightUniforms } from './light'
import { NAP_GLSL } from './nap/glsl'
import { napUniforms } from './nap/shade'
import type { SpeciesMeshes } from './species'
import { SWAY_GLSL } from './sway/glsl'
import { SLOTS_ACROSS, windUniforms } from './sway/wind'

// Each plant a little lighter or darker, warmer or cooler: as in rookery-render/src/scene.rs.
// Where layers are told apart, each is mostly in its key colour; light and dark stay.
export const TINT_GLSL = /* glsl */ `
uniform vec4 uKey;
vec3 tinted(vec3 albedo, vec2 tint, vec3 own) {
  vec2 t = tint - 0.5;
  vec3 plain = min(min(albedo * own * (255.0 / 128.0), vec3(1.0)) * (1.0 + 0.30 * t.x) * vec3(1.0 + 0.16 * t.y, 1.0, 1.0 - 0.16 * t.y), vec3(1.0));
  float bright = dot(plain, vec3(0.2126, 0.7152, 0.0722));
  return mix(plain, uKey.rgb * (0.6 + 1.2 * min(bright, 0.5)), uKey.a);
}`

/** No key colour yet; each material has its own. */
export const keyUniform = () => ({ uKey: { value: new Vector4(0, 0, 0, 0) } })

/** Which of the moving grounds an instance is on; below zero on one that stays. */
export const RIDE_GLSL = /* glsl */ `
attribute float iGround;
uniform int uRideOf[${SLOTS}];
int rideOf() {
  return uRideOf[int(iGround + 0.5)];
}`

/** How what may move does so; plants that stand still have none of it, which makes their shaders quick to make ready. */
export const MOVES_GLSL = /* glsl */ `
#ifdef MOVES
${SWAY_GLSL}
${RIDE_GLSL}
#else
int rideOf() {
  return -1;
}
vec3 carriedWay(vec3 v, int ride) {
  return v;
}
vec3 carried(vec3 p, int ride) {
  return p;
}
#endif`

/** Lets plants of a material move, or stand still. */
export function letMove(material: ShaderMaterial, moves: boolean) {
  if ('MOVES' in material.defines === moves) return
  material.defines = moves ? { MOVES: '' } : {}
  material.needsUpdate = true
}

/** Where an instance stands: its base and size, its turn, its tint with height and depth against size, and its colour; and how it is bent. */
export const INSTANCE_GLSL = /* glsl */ `
${MOVES_GLSL}
#ifdef MOVES
uniform highp sampler2D uTurned;
uniform int uSlot;
uniform float uBends;
uniform float uTall;
attribute vec4 aFoot;
attribute vec3 aSet;
attribute vec3 aCurve;
attribute vec4 aFlap;
attribute vec4 aOff;
float flap_ = 0.0;
vec2 theta_ = vec2(0.0);
float share_ = 0.0;
#endif
attribute vec4 iPlace;
attribute vec4 iTurn;
attribute vec4 iTint;
attribute vec4 iColour;
vec3 turned(vec3 v) {
  vec3 u = iTurn.xyz;
  return v + 2.0 * cross(u, cross(u, v) + iTurn.w * v);
}
vec3 stretched() {
  return vec3(1.0, exp2((iTint.zw * 255.0 - 128.0) / 64.0));
}
vec3 inScene(vec3 v) {
  return carriedWay(turned(v * stretched() * iPlace.w), rideOf());
}
/** Where a point of the plant is in the scene. Called first: what follows is bent as it is. */
vec3 placed(vec3 v) {
  vec3 p = inScene(v);
#ifdef MOVES
  if (uBends > 0.5) {
    int slot = uSlot + gl_InstanceID;
    theta_ = texelFetch(uTurned, ivec2(slot % ${SLOTS_ACROSS}, slot / ${SLOTS_ACROSS}), 0).xy;
    if (dot(aOff.xyz, aOff.xyz) > 0.0) {
      flap_ = fluttering(length(theta_), aFlap.w * 4.0);
      p = inScene(v + aOff.xyz * (0.5 * flap_));
    }
    // What knows no limbs bends as a whole.
    bool limbs = uBends < 1.5;
    share_ = limbs ? aFoot.w : clamp(v.y / uTall, 0.0, 1.0);
    p = bent(theta_, share_, limbs ? inScene(aFoot.xyz) : vec3(0.0), inScene(limbs ? aSet : vec3(0.0, uTall, 0.0)), limbs ? inScene(aCurve) : vec3(0.0), p);
  }
#endif
  return carried(iPlace.xyz, rideOf()) + p;
}
vec3 faced(vec3 n) {
#ifdef MOVES
  return normalize(bentWay(theta_, share_, carriedWay(turned((n + cross(aFlap.xyz, n) * flap_) / stretched()), rideOf())));
#else
  return normalize(turned(n / stretched()));
#endif
}`

/** What a material needs to bend; each has its own answer to the wind. */
export const swayUniforms = (tall: number) => ({
  ...windUniforms,
  uSway: { value: new Vector4(1, 0.1, 0, 1) },
  uUnrest: { value: new Vector4(0, 0, 2, 0) },
  uStem: { value: new Vector4(1, 0.2, 1.4, 0) },
  uBlownBy: { value: 0 },
  uFlutter: { value: 0 },
  uSlot: { value: 0 },
  uBends: { value: 0 },
  uTall: { value: tall },
  uRideOf: { value: new Int32Array(SLOTS).fill(-1) },
})

/** How much of its square a fan of blades covers, on the mean of all blades: from the shader below, summed over its pixels. */
const FAN_SHARE = 0.3425

/** Dots smaller than this stand still in the wind, pixels: four tenths of the height of what covers them, bent over, is less than a pixel. */
const SWAYS_FROM_PX = 2

/** How glossy a species is, and how much light it gives off by itself. */
export function finishOf({ colours }: Species): Vector2 {
  return new Vector2(colours.sheen ?? 0, colours.glow ?? 0)
}

/** As high as nap stands, metres. */
const NAP_HIGH_M = 0.055

/** The ground's own cover of a kind: light is scarce in it as its leaf says. */
export const napMaterial = (kind: number) => meshMaterial(true, NAP_HIGH_M, new Vector2(0, 0), kind)

/** Instanced forms. `height` is that of the species, metres: light is scarcer near the ground. `nap` is for the ground's own cover, of this kind. */
export function meshMaterial(thin: boolean, height: number, finish: Vector2, nap?: number): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ...lightUniforms, ...napUniforms, uKind: { value: nap ?? 0 }, ...keyUniform(), ...swayUniforms(height), uThin: { value: thin ? 1 : 0 }, uHeight: { value: height }, uFinish: { value: finish } },
    side: thin ? DoubleSide : FrontSide,
    vertexShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TINT_GLSL}
      ${nap === undefined ? '' : NAP_GLSL}
      uniform int uKind;
      attribute vec3 aColour;
      attribute vec4 aLight;
      ${INSTANCE_GLSL}
      uniform float uThin;
      uniform float uHeight;
      uniform vec2 uFinish;
      varying vec3 vLight;
      void main() {
        vec3 p = placed(position);
        vec3 n = faced(normal);
        vec3 albedo = tinted(aColour, iTint.xy, iColour.rgb);
        vec3 through = aLight.x * albedo * vec3(0.62, 0.66, 0.30);
        vec3 toPoint = p - cameraPosition;
        sun_ = sunlit(p, uSun);
        ${nap === undefined ? `
        vec3 open = uThin > 0.5 ? skyAmong(aLight.y * amongOthers(position.y / uHeight), albedo) : vec3(0.95);
        vec3 light = litThrough(albedo, through, n, vec3(1.0), open);` : `
        float over = NAP_AREAS[uKind] * napLeft(length(toPoint)) * napAbove(position.y * iPlace.w);
        vec3 light = litThrough(albedo, through, n, sunThrough(over, albedo), skyThrough(over, albedo));`}
        vLight = toned(aired(finished(light, albedo, n, toPoint, uFinish), toPoint));
        gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      varying vec3 vLight;
      void main() {
        gl_FragColor = vec4(vLight, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/**
 * Plants too far away for a mesh: a fan of blades for grass, a rounded stone for rock, in the species' mean colour. A dot covers as much of
 * a picture as the plant does from the side, `covered` m2 at full size; from above, a round of its crown.
 */
export function dotMaterial({ mean, open, covered_m2: covered, species }: SpeciesMeshes, finish: Vector2): ShaderMaterial {
  const { thin, height_m: height, radius_m: radius } = species
  return new ShaderMaterial({
    uniforms: {
      ...lightUniforms,
      ...keyUniform(),
      ...swayUniforms(height),
      uThin: { value: thin ? 1 : 0 },
      uMean: { value: new Vector3(mean.r, mean.g, mean.b) },
      uOpen: { value: thin ? open : 0.85 },
      uBody: { value: new Vector3(height, radius, covered) },
      uFinish: { value: new Vector2(0, finish.y) },
      uScale: { value: 500 },
      uPerspective: { value: 1 },
      uShare: { value: 1 },
      uThinned: { value: 1 },
    },
    vertexShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TINT_GLSL}
      attribute vec4 iPlace;
      attribute vec4 iTint;
      attribute vec4 iColour;
      ${MOVES_GLSL}
      uniform float uBends;
      uniform vec3 uMean;
      uniform float uOpen;
      uniform vec3 uBody;
      uniform float uThin;
      uniform float uScale;
      uniform vec2 uFinish;
      uniform float uPerspective;
      uniform float uShare;
      uniform float uThinned;
      varying vec3 vLight;
      varying float vPx;
      varying float vOwn;
      void main() {
        gl_Position = vec4(2.0, 2.0, 2.0, 1.0);
        gl_PointSize = 1.0;
        if (iColour.w * 255.0 >= uShare * uThinned * 256.0) return;
        float tall = exp2((iTint.z * 255.0 - 128.0) / 64.0);
        vec3 p = vec3(0.0, uBody.x * 0.4 * tall * iPlace.w, 0.0);
        int ride = rideOf();
        vec3 foot = carried(iPlace.xyz, ride);
        vec3 toPoint = p + foot - cameraPosition;
        float d = uPerspective > 0.5 ? length(toPoint) : 1.0;
        float px;
        if (uPerspective > 0.5) {
          // What is seen from the side: as high as it is stretched, and as deep from half of the sides.
          float deep = exp2((iTint.w * 255.0 - 128.0) / 64.0);
          float area = uBody.z * tall * mix(1.0, deep, 0.5) * iPlace.w * iPlace.w * uScale * uScale / (d * d);
          px = sqrt(area * ${(4 / Math.PI).toFixed(4)});
          if (uThin > 0.5 && px > 4.0) px = sqrt(area / ${FAN_SHARE});
        } else {
          px = uScale * mix(uBody.x * tall, uBody.y * 2.0, 0.5) * iPlace.w * (uThin > 0.5 ? 0.72 : 0.9);
        }
        // Those that are left while it plays cover what the others would.
        px *= inversesqrt(uThinned);
        // What is smaller than the smallest dot covers its share of them: so many are drawn, the same ones always.
        vOwn = iTint.x * 61.0 + iTint.y * 17.0;
        if (fract(vOwn) > (px / 1.4) * (px / 1.4)) return;
        // What is smaller than this moves by less than a pixel, however it is bent.
#ifdef MOVES
        if (uBends > 0.5 && px > ${SWAYS_FROM_PX.toFixed(1)}) {
          vec2 theta = swayed(foot, iPlace.w, floor(iTint.xy * 255.0 + 0.5), ride);
          p = bent(theta, 0.4, vec3(0.0), vec3(0.0, uBody.x * tall * iPlace.w, 0.0), vec3(0.0), p);
        }
#endif
        p += foot;
        gl_PointSize = clamp(px, 1.4, 60.0);
        vPx = uPerspective > 0.5 ? gl_PointSize : 0.0;
        vec3 albedo = tinted(uMean, iTint.xy, iColour.rgb);
        vec3 through = uThin * albedo * vec3(0.62, 0.66, 0.30);
        vec3 n = normalize(vec3(0.0, 1.0, 0.0) - 0.5 * toPoint / length(toPoint));
        sun_ = sunlit(p + (uThin > 0.5 ? vec3(0.0, uBody.x * 0.4, 0.0) : uSun * max(uBody.y, uBody.x * 0.5)) * iPlace.w, uSun);
        vLight = toned(aired(finished(litThrough(albedo, through, n, vec3(1.0), uThin > 0.5 ? skyAmong(uOpen, albedo) : vec3(uOpen)), albedo, n, toPoint, uFinish), toPoint));
        gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      uniform float uThin;
      varying vec3 vLight;
      varying float vPx;
      varying float vOwn;
      void main() {
        vec2 c = gl_PointCoord * 2.0 - 1.0;
        float light = 0.82 - 0.22 * c.y;
        if (uThin > 0.5 && vPx > 4.0) {
          // Blades fan out from the foot, each with its own length, thinning to its tip.
          vec2 p = vec2(c.x, (1.0 - c.y) * 0.5);
          float turn = atan(p.x, p.y + 0.12) * 4.6 + vOwn;
          float blade = fract(sin(floor(turn) * 12.9898 + floor(vOwn)) * 43758.5453);
          float reach = length(vec2(p.x * 0.7, p.y)) / (0.55 + 0.5 * blade);
          if (reach > 1.0 || abs(fract(turn) - 0.5) > 0.5 - 0.38 * reach) discard;
          light = 0.55 + 0.55 * reach;
        } else if (dot(c, c) > 1.0) discard;
        gl_FragColor = vec4(vLight * light, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

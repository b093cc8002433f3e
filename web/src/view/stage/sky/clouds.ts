import { DataTexture, LinearFilter, RedFormat, RepeatWrapping, UnsignedByteType, Vector3 } from 'three'
import { radiance, type Sky } from './sky'

/** Of the table of billows, as in rookery-core/src/clouds.rs. */
export const SIDE = 256
export const TILE_M = 7200
const HEIGHT_M = 1100
const SOFT = 0.3
const BENDS = 0.05
export const TAKES = 0.86
/** As in rookery-render/src/light/overhead.rs. */
const FADES_M = 12_000
const SIDE_M = 90

/** None anywhere, until the table is there. */
const none = new DataTexture(new Uint8Array(1), 1, 1, RedFormat, UnsignedByteType)
none.needsUpdate = true

export const cloudUniforms = {
  uBillows: { value: none },
  /** Share of the sky that is clouded, and how far they have drifted towards x and z, metres. */
  uClouds: { value: new Vector3() },
  /** 1 where they shade the land, 0 in a view that does without shadows. */
  uCloudsShade: { value: 1 },
  /** Where the sun is on them, where it is not, and what comes through thin ones. */
  uCloudLook: { value: [new Vector3(), new Vector3(), new Vector3()] },
}

/** Takes the table of billows. */
export function setBillows(table: Uint8Array<ArrayBuffer>) {
  if (table.length !== SIDE * SIDE) throw new Error('the table of clouds has another size')
  const texture = new DataTexture(table, SIDE, SIDE, RedFormat, UnsignedByteType)
  texture.wrapS = texture.wrapT = RepeatWrapping
  texture.magFilter = texture.minFilter = LinearFilter
  texture.needsUpdate = true
  cloudUniforms.uBillows.value.dispose()
  cloudUniforms.uBillows.value = texture
}

/** Lets them drift to a moment, seconds; reduced here, so that an hour is as exact as a second. */
export function driftClouds([x, z]: number[], time: number) {
  const { value } = cloudUniforms.uClouds
  value.y = (x * time) % TILE_M
  value.z = (z * time) % TILE_M
}

const luminance = (v: Vector3) => 0.2126 * v.x + 0.7152 * v.y + 0.0722 * v.z
const plain = (v: Vector3, share: number) => v.clone().lerp(new Vector3().setScalar(luminance(v)), share)

export interface CloudLook {
  white: Vector3
  grey: Vector3
  rim: Vector3
}

/** How bright clouds are under a sky: as `CloudLook` of the stills. */
export function cloudLook(sky: Sky, sunLight: Vector3): CloudLook {
  const all = [[0, 1, 0], [1, 0.5, 0], [-1, 0.5, 0], [0, 0.5, 1], [0, 0.5, -1]].reduce((sum, [x, y, z]) => sum.add(radiance(sky, new Vector3(x, y, z).normalize())), new Vector3())
  const grey = plain(all.divideScalar(5), 0.6).multiplyScalar(1.35)
  const sunlit = plain(sunLight, 0.5)
  return { white: sunlit.clone().multiplyScalar(0.27).addScaledVector(grey, 0.7), grey, rim: sunlit.multiplyScalar(0.4) }
}

/** What a share of clouds makes of the light from a direction of the sky, on the whole. */
export function cloudedOnTheWhole(light: Vector3, share: number, look: CloudLook): Vector3 {
  return light.lerp(look.white.clone().lerp(look.grey, 0.5), share * 0.85)
}

/** Takes a share of clouds and how they look. */
export function setClouds(share: number, look: CloudLook) {
  const { uClouds, uCloudLook } = cloudUniforms
  uClouds.value.x = share
  uCloudLook.value[0].copy(look.white)
  uCloudLook.value[1].copy(look.grey)
  uCloudLook.value[2].copy(look.rim)
}

/** Clouds before the sky, and the share of the sun that they leave to a point. Needs `uSun`. */
export const CLOUDS_GLSL = /* glsl */ `
uniform sampler2D uBillows;
uniform vec3 uClouds;
uniform float uCloudsShade;
uniform vec3 uCloudLook[3];

float billow(vec2 at) {
  return textureLod(uBillows, (at - uClouds.yz) / ${TILE_M.toFixed(1)}, 0.0).r;
}
float cloudThick(float rank) {
  float edge = ${SOFT} * uClouds.x;
  return smoothstep(0.0, 1.0, (rank - 1.0 + uClouds.x + edge) / max(2.0 * edge, 1e-6));
}
// A loop without a turn costs nothing on a processor, where both sides of an if are worked out.
float throughClouds(vec3 p) {
  float through = 1.0;
  int looks = uClouds.x * uCloudsShade > 0.0 && uSun.y > 0.0 && p.y < ${HEIGHT_M.toFixed(1)} ? 1 : 0;
  for (int k = 0; k < looks; k++) {
    float away = (${HEIGHT_M.toFixed(1)} - p.y) / (uSun.y + ${BENDS});
    through = 1.0 - ${TAKES} * cloudThick(billow(p.xz + uSun.xz * away));
  }
  return through;
}
vec3 clouded(vec3 sky, vec3 from, vec3 d) {
  int looks = uClouds.x > 0.0 && d.y > 0.0 && from.y < ${HEIGHT_M.toFixed(1)} ? 1 : 0;
  for (int k = 0; k < looks; k++) {
    float away = (${HEIGHT_M.toFixed(1)} - from.y) / (d.y + ${BENDS});
    vec2 at = from.xz + d.xz * away;
    float rank = billow(at);
    float thick = cloudThick(rank);
    float level = length(uSun.xz);
    vec2 side = level > 1e-4 ? uSun.xz / level * ${SIDE_M.toFixed(1)} : vec2(0.0);
    float lit = clamp((rank - billow(at + side)) * 6.0, -1.0, 1.0);
    float core = smoothstep(0.0, 1.0, (rank - 1.0 + uClouds.x) * 2.0);
    float behind = (1.0 - core) * exp(20.0 * (dot(d, uSun) - 1.0));
    vec3 cloud = mix(uCloudLook[1], uCloudLook[0], clamp(0.85 - 0.75 * core + 0.35 * lit, 0.0, 1.0)) + uCloudLook[2] * behind;
    sky = mix(sky, cloud, thick * exp(-away / ${FADES_M.toFixed(1)}));
  }
  return sky;
}
`

import { Matrix4, Vector4, type DepthTexture } from 'three'

/** Pixels of a map each way. */
export const SIDE = 1024

/** How the sun is kept from what is looked at, for all materials: see `SHADOW_GLSL`. */
export const shadowUniforms = {
  /** About the eye, finer to rougher. */
  uShadow0: { value: null as DepthTexture | null },
  uShadow1: { value: null as DepthTexture | null },
  uShadow2: { value: null as DepthTexture | null },
  /** The land. */
  uShadow3: { value: null as DepthTexture | null },
  /** What moves by itself. */
  uShadow4: { value: null as DepthTexture | null },
  uShadowTo: { value: Array.from({ length: 5 }, () => new Matrix4()) },
  /** Of each map the size of a pixel, metres; 0 where it does not count. */
  uShadowPx: { value: [0, 0, 0, 0, 0] },
  /** 1 where edges are softened by several looks, 0 where one look must do. */
  uShadowSoft: { value: 1 },
  /** How high what stands is, from straight above, and whence that is seen: west, north and top, and the size of the square; 0 where it does not count. */
  uAbove: { value: null as DepthTexture | null },
  uAboveAt: { value: new Vector4() },
  uAboveDeep: { value: 1 },
}

import { DepthTexture, LessEqualCompare, LinearFilter, NearestFilter, OrthographicCamera, Vector3, WebGLRenderTarget, type Object3D, type WebGLRenderer } from 'three'
import { lightUniforms } from '../light'
import { SIDE, shadowUniforms } from './uniforms'

/** A map reaches so far towards the sun and away from it, metres, at least. */
const DEEP_M = 200
/** Nearly straight down there is no up to turn by. */
const STEEP = 0.99
/** A map is kept while its reach is right within this power of two. */
const REACH_STRAYS = 0.6

function depthTarget(compared: boolean): WebGLRenderTarget {
  const depthTexture = new DepthTexture(SIDE, SIDE)
  depthTexture.minFilter = depthTexture.magFilter = NearestFilter
  if (compared) {
    depthTexture.compareFunction = LessEqualCompare
    depthTexture.minFilter = depthTexture.magFilter = LinearFilter
  }
  return new WebGLRenderTarget(SIDE, SIDE, { depthTexture, minFilter: NearestFilter, magFilter: NearestFilter, generateMipmaps: false })
}

function drawDepth(renderer: WebGLRenderer, target: WebGLRenderTarget, camera: OrthographicCamera, roots: Object3D[]) {
  const [before, clears] = [renderer.getRenderTarget(), renderer.autoClear]
  renderer.setRenderTarget(target)
  renderer.autoClear = false
  renderer.clear(true, true, false)
  for (const root of roots) renderer.render(root, camera)
  renderer.setRenderTarget(before)
  renderer.autoClear = clears
}

/** How far things are from the sun, over a square about a point. */
export class ShadowMap {
  readonly camera = new OrthographicCamera()
  /** Half of its square, metres. */
  reach = 1
  /** How long it took to draw, milliseconds; not known before the first time. */
  costMs: number | null = null
  private readonly target = depthTarget(true)
  private readonly nth: number
  private readonly middle = new Vector3()
  /** Whether what is in it is so. */
  private fresh = false

  /** `nth` is its place among the uniforms. */
  constructor(nth: number) {
    this.nth = nth
  }

  get metresPerPx() {
    return (2 * this.reach) / SIDE
  }

  /** What is in it is not so any more. */
  outdate() {
    this.fresh = false
  }

  get stale() {
    return !this.fresh
  }

  /** Whether it does not show what lies about a point so far, give or take a share of its reach. */
  misses(point: Vector3, reach: number, strays: number): boolean {
    return this.stale || this.middle.distanceTo(point) > this.reach * strays || Math.abs(Math.log2(reach / this.reach)) > REACH_STRAYS
  }

  /** Lays it about a point, with the sun there or a little aside. */
  lay(point: Vector3, reach: number, sun = lightUniforms.uSun.value) {
    this.reach = reach
    this.middle.copy(point)
    const { camera } = this
    camera.position.set(0, 0, 0)
    camera.up.set(0, 1, 0)
    if (Math.abs(sun.y) > STEEP) camera.up.set(0, 0, -1)
    camera.lookAt(sun.clone().negate())
    camera.updateMatrixWorld(true)
    // In whole pixels, so that edges stay where they are when it goes along.
    const local = point.clone().applyMatrix4(camera.matrixWorldInverse)
    const px = this.metresPerPx
    local.x = Math.round(local.x / px) * px
    local.y = Math.round(local.y / px) * px
    camera.position.copy(local.applyMatrix4(camera.matrixWorld))
    camera.left = camera.bottom = -reach
    camera.right = camera.top = reach
    camera.far = Math.max(reach * 2, DEEP_M)
    camera.near = -camera.far
    camera.updateProjectionMatrix()
    camera.updateMatrixWorld(true)
  }

  draw(renderer: WebGLRenderer, roots: Object3D[]) {
    const own = shadowUniforms[`uShadow${this.nth}` as 'uShadow0']
    // What is drawn into cannot be looked at meanwhile.
    own.value = null
    drawDepth(renderer, this.target, this.camera, roots)
    own.value = this.target.depthTexture
    shadowUniforms.uShadowTo.value[this.nth].multiplyMatrices(this.camera.projectionMatrix, this.camera.matrixWorldInverse)
    shadowUniforms.uShadowPx.value[this.nth] = this.metresPerPx
    this.fresh = true
  }

  /** Casts nothing until it is drawn again. */
  off() {
    this.fresh = false
    shadowUniforms.uShadowPx.value[this.nth] = 0
  }

  dispose() {
    this.off()
    shadowUniforms[`uShadow${this.nth}` as 'uShadow0'].value = null
    this.target.dispose()
  }
}

/** How far below and above the ground at its middle the map from above looks, metres. */
const HIGH_M = 40

/** How high what stands is, from straight above. */
export class AboveMap {
  private readonly camera = new OrthographicCamera()
  private readonly target = depthTarget(false)

  /** Draws it about a point. */
  draw(renderer: WebGLRenderer, point: Vector3, reach: number, roots: Object3D[]) {
    const { camera } = this
    camera.left = camera.bottom = -reach
    camera.right = camera.top = reach
    camera.near = 0
    camera.far = 2 * HIGH_M
    camera.up.set(0, 0, -1)
    camera.position.set(point.x, point.y + HIGH_M, point.z)
    camera.lookAt(point.x, point.y, point.z)
    camera.updateProjectionMatrix()
    camera.updateMatrixWorld(true)
    shadowUniforms.uAbove.value = null
    drawDepth(renderer, this.target, camera, roots)
    shadowUniforms.uAbove.value = this.target.depthTexture
    shadowUniforms.uAboveAt.value.set(point.x - reach, point.z - reach, point.y + HIGH_M, 2 * reach)
    shadowUniforms.uAboveDeep.value = 2 * HIGH_M
  }

  off() {
    shadowUniforms.uAboveAt.value.w = 0
  }

  dispose() {
    this.off()
    shadowUniforms.uAbove.value = null
    this.target.dispose()
  }
}

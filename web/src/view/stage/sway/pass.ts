import {
  BufferAttribute, Camera, FloatType, InstancedBufferGeometry, NearestFilter, Points, RGBAFormat, Scene, ShaderMaterial, WebGLRenderTarget,
  type InstancedBufferAttribute, type WebGLRenderer,
} from 'three'
import { RIDE_GLSL, swayUniforms } from '../plantMaterials'
import { SWAY_GLSL } from './glsl'
import { SLOTS_ACROSS, windUniforms } from './wind'

/** The wind is asked once for each plant, not for each of its corners. */
export function swayMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ...swayUniforms(1), uRows: { value: 1 } },
    depthTest: false,
    depthWrite: false,
    vertexShader: /* glsl */ `
      ${SWAY_GLSL}
      ${RIDE_GLSL}
      attribute vec4 iPlace;
      attribute vec4 iTint;
      uniform int uSlot;
      uniform float uRows;
      varying vec2 vTheta;
      void main() {
        int slot = uSlot + gl_InstanceID;
        vec2 at = vec2(float(slot % ${SLOTS_ACROSS}), float(slot / ${SLOTS_ACROSS})) + 0.5;
        gl_Position = vec4(at / vec2(${SLOTS_ACROSS}.0, uRows) * 2.0 - 1.0, 0.0, 1.0);
        gl_PointSize = 1.0;
        int ride = rideOf();
        vTheta = swayed(carried(iPlace.xyz, ride), iPlace.w, floor(iTint.xy * 255.0 + 0.5), ride);
      }`,
    fragmentShader: /* glsl */ `
      varying vec2 vTheta;
      void main() {
        gl_FragColor = vec4(vTheta, 0.0, 1.0);
      }`,
  })
}

/** The plants of one draw call as single points: their places are those that it draws from. */
export class SwayPoints {
  readonly points: Points<InstancedBufferGeometry, ShaderMaterial>
  /** Where the first of them is in the texture. */
  slot = 0

  constructor(material: ShaderMaterial) {
    const geometry = new InstancedBufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(3), 3))
    geometry.setDrawRange(0, 1)
    geometry.instanceCount = 0
    this.points = new Points(geometry, material)
    this.points.frustumCulled = false
    this.points.onBeforeRender = () => {
      material.uniforms.uSlot.value = this.slot
      material.uniformsNeedUpdate = true
    }
  }

  /** Takes the columns of the plants themselves. */
  share(place: InstancedBufferAttribute, tint: InstancedBufferAttribute, ground: InstancedBufferAttribute) {
    // Letting go of columns frees them for the plants as well: only when those have let go of them too.
    if (this.points.geometry.getAttribute('iPlace') === place) return
    this.points.geometry.dispose()
    this.points.geometry.setAttribute('iPlace', place)
    this.points.geometry.setAttribute('iTint', tint)
    this.points.geometry.setAttribute('iGround', ground)
  }

  get count() {
    return this.points.geometry.instanceCount
  }

  set count(count: number) {
    this.points.geometry.instanceCount = count
    this.points.visible = count > 0
  }
}

/** Asks the wind for all plants that are drawn as more than a dot, into one texture. */
export class SwayPass {
  private target: WebGLRenderTarget | null = null
  private readonly scene = new Scene()
  private readonly camera = new Camera()

  render(renderer: WebGLRenderer, all: SwayPoints[]) {
    let slots = 0
    for (const one of all) {
      one.slot = slots
      slots += one.count
    }
    const rows = Math.max(1, Math.ceil(slots / SLOTS_ACROSS))
    if (!this.target || this.target.height < rows) {
      this.target?.dispose()
      this.target = new WebGLRenderTarget(SLOTS_ACROSS, Math.ceil(rows * 1.25), {
        type: FloatType, format: RGBAFormat, minFilter: NearestFilter, magFilter: NearestFilter, depthBuffer: false, generateMipmaps: false,
      })
    }
    windUniforms.uTurned.value = null
    for (const one of all) one.points.material.uniforms.uRows.value = this.target.height
    this.scene.children = all.map((one) => one.points)
    const [before, clears] = [renderer.getRenderTarget(), renderer.autoClear]
    renderer.autoClear = false
    renderer.setRenderTarget(this.target)
    renderer.render(this.scene, this.camera)
    renderer.setRenderTarget(before)
    renderer.autoClear = clears
    this.scene.children = []
    windUniforms.uTurned.value = this.target.texture
  }

  /** How the plants of a draw call are turned in the last picture, radians towards x and z: for checks. */
  read(renderer: WebGLRenderer, one: SwayPoints): Float32Array {
    const rows = this.target!.height
    const all = new Float32Array(SLOTS_ACROSS * rows * 4)
    renderer.readRenderTargetPixels(this.target!, 0, 0, SLOTS_ACROSS, rows, all)
    return Float32Array.from({ length: one.count * 2 }, (_, i) => all[(one.slot + (i >> 1)) * 4 + (i & 1)])
  }

  dispose() {
    this.target?.dispose()
  }
}

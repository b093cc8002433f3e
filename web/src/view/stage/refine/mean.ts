import {
  AddEquation, CustomBlending, HalfFloatType, LinearFilter, Mesh, NoBlending, OneFactor, OneMinusSrcAlphaFactor, OrthographicCamera, PlaneGeometry, Scene,
  ShaderMaterial, SrcAlphaFactor, WebGLRenderTarget, type WebGLRenderer,
} from 'three'
import { pictureTarget } from '../offScreen'

const VERTEX = 'varying vec2 vAt; void main() { vAt = uv; gl_Position = vec4(position.xy * 2.0, 0.0, 1.0); }'

/** Pictures of one view, each a fraction of a pixel from the others, and the mean of them all. */
export class MeanPicture {
  /** What one is drawn into. */
  readonly one = pictureTarget()
  private readonly mean = new WebGLRenderTarget(1, 1, { type: HalfFloatType, depthBuffer: false, minFilter: LinearFilter, magFilter: LinearFilter })
  private readonly add = new ShaderMaterial({
    uniforms: { uPicture: { value: this.one.texture }, uWeight: { value: 1 } },
    vertexShader: VERTEX,
    fragmentShader: 'uniform sampler2D uPicture; uniform float uWeight; varying vec2 vAt; void main() { gl_FragColor = vec4(texture2D(uPicture, vAt).rgb, uWeight); }',
    depthTest: false, depthWrite: false, transparent: true,
    blending: CustomBlending, blendEquation: AddEquation, blendSrc: SrcAlphaFactor, blendDst: OneMinusSrcAlphaFactor, blendSrcAlpha: OneFactor, blendDstAlpha: OneMinusSrcAlphaFactor,
  })
  private readonly show = new ShaderMaterial({
    uniforms: { uPicture: { value: this.mean.texture } },
    vertexShader: VERTEX,
    fragmentShader: `uniform sampler2D uPicture; varying vec2 vAt;
      void main() { gl_FragColor = vec4(texture2D(uPicture, vAt).rgb, 1.0);
      #include <colorspace_fragment>
      }`,
    depthTest: false, depthWrite: false, blending: NoBlending,
  })
  private readonly sheet = new Mesh(new PlaneGeometry(1, 1), this.add)
  private readonly scene = new Scene()
  private readonly camera = new OrthographicCamera()

  constructor() {
    this.sheet.frustumCulled = false
    this.scene.add(this.sheet)
  }

  size(width: number, height: number) {
    if (this.one.width === width && this.one.height === height) return
    for (const t of [this.one, this.mean]) t.setSize(width, height)
  }

  /** Takes the picture into the mean as the `nth`, from 1, and shows the mean. */
  take(renderer: WebGLRenderer, nth: number) {
    const clears = renderer.autoClear
    renderer.autoClear = false
    this.add.uniforms.uWeight.value = 1 / nth
    this.draw(renderer, this.add, this.mean)
    this.draw(renderer, this.show, null)
    renderer.autoClear = clears
  }

  private draw(renderer: WebGLRenderer, material: ShaderMaterial, into: WebGLRenderTarget | null) {
    this.sheet.material = material
    renderer.setRenderTarget(into)
    renderer.render(this.scene, this.camera)
    renderer.setRenderTarget(null)
  }

  dispose() {
    this.one.dispose()
    this.mean.dispose()
    this.add.dispose()
    this.show.dispose()
    this.sheet.geometry.dispose()
  }
}

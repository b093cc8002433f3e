import {
  LinearFilter, Mesh, NoBlending, OrthographicCamera, PlaneGeometry, SRGBColorSpace, Scene, ShaderMaterial, Vector2, WebGLRenderTarget, type Camera, type WebGLRenderer,
} from 'three'

/**
 * What every picture of the scene is drawn into: the moving one, the one at rest, those that are refined, and what water mirrors. All have one kind of
 * pixel and one space of colours, as each other kind has every shader made once more: on a processor that takes half a second each.
 */
export function pictureTarget(): WebGLRenderTarget {
  return new WebGLRenderTarget(1, 1, { colorSpace: SRGBColorSpace, minFilter: LinearFilter, magFilter: LinearFilter })
}

/**
 * Draws pictures at their own size or less and stretches them over the canvas, which keeps its size: a canvas that changes its size waits for all that was
 * drawn before.
 */
export class OffScreen {
  private readonly target = pictureTarget()
  private readonly scene = new Scene()
  private readonly camera = new OrthographicCamera(-0.5, 0.5, 0.5, -0.5, -1, 1)
  private readonly sheet: Mesh<PlaneGeometry, ShaderMaterial>
  private readonly size = new Vector2()

  constructor() {
    const material = new ShaderMaterial({
      uniforms: { uPicture: { value: this.target.texture } },
      vertexShader: `varying vec2 vAt;
        void main() { vAt = uv; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
      fragmentShader: `uniform sampler2D uPicture; varying vec2 vAt;
        void main() { gl_FragColor = vec4(texture2D(uPicture, vAt).rgb, 1.0);
        #include <colorspace_fragment>
        }`,
      depthTest: false,
      depthWrite: false,
      blending: NoBlending,
    })
    this.sheet = new Mesh(new PlaneGeometry(1, 1), material)
    this.scene.add(this.sheet)
  }

  /** `share` of the width and of the height. */
  render(renderer: WebGLRenderer, scene: Scene, camera: Camera, share: number) {
    renderer.getDrawingBufferSize(this.size)
    const [width, height] = [Math.ceil(this.size.x * share), Math.ceil(this.size.y * share)]
    if (this.target.width !== width || this.target.height !== height) this.target.setSize(width, height)
    renderer.setRenderTarget(this.target)
    renderer.render(scene, camera)
    renderer.setRenderTarget(null)
    renderer.render(this.scene, this.camera)
  }

  dispose() {
    this.target.dispose()
    this.sheet.geometry.dispose()
    this.sheet.material.dispose()
  }
}

import { Matrix4, PerspectiveCamera, Plane, Vector2, Vector3, Vector4, type Object3D, type Scene, type Texture, type WebGLRenderer } from 'three'
import { pictureTarget } from './offScreen'

/** What water mirrors besides the sky, for its material. */
export const mirrorUniforms = {
  uMirror: { value: null as Texture | null },
  /** From a point in the scene to where it is in that picture. */
  uMirrorTo: { value: new Matrix4() },
  /** 1 where there is such a picture. */
  uMirrored: { value: 0 },
}

/** Of the picture's width and height. */
const SHARE = 0.5

/** The camera that sees from below level water what its surface shows: mirrored at a height, and blind to what lies below that. */
export function mirrored(camera: PerspectiveCamera, height: number): PerspectiveCamera {
  const below = camera.clone()
  const [eye, to] = [new Vector3().setFromMatrixPosition(camera.matrixWorld), camera.getWorldDirection(new Vector3())]
  const flip = (v: Vector3) => v.setY(-v.y)
  below.position.copy(eye).setY(2 * height - eye.y)
  below.up.copy(flip(new Vector3(0, 1, 0).applyQuaternion(camera.quaternion)))
  below.lookAt(below.position.clone().add(flip(to)))
  below.updateMatrixWorld(true)
  below.projectionMatrix.copy(camera.projectionMatrix)
  // Its near plane is the water's surface: Lengyel, "Oblique View Frustum Depth Projection and Clipping", 2005.
  const plane = new Plane(new Vector3(0, 1, 0), -height).applyMatrix4(below.matrixWorldInverse)
  const clip = new Vector4(plane.normal.x, plane.normal.y, plane.normal.z, plane.constant)
  const p = below.projectionMatrix.elements
  const corner = new Vector4((Math.sign(clip.x) + p[8]) / p[0], (Math.sign(clip.y) + p[9]) / p[5], -1, (1 + p[10]) / p[14])
  clip.multiplyScalar(2 / clip.dot(corner))
  p[2] = clip.x
  p[6] = clip.y
  p[10] = clip.z + 1
  p[14] = clip.w
  below.projectionMatrixInverse.copy(below.projectionMatrix).invert()
  return below
}

/** A picture of what the water mirrors, for a view at rest. */
export class Mirror {
  private readonly target = pictureTarget()

  /** Draws it; `hidden` are not in it: the water itself, and marks. */
  draw(renderer: WebGLRenderer, scene: Scene, camera: PerspectiveCamera, hidden: Object3D[]) {
    const { x, y } = renderer.getDrawingBufferSize(new Vector2())
    this.target.setSize(Math.max(1, Math.round(x * SHARE)), Math.max(1, Math.round(y * SHARE)))
    const shown = hidden.map((o) => o.visible)
    for (const o of hidden) o.visible = false
    mirrorUniforms.uMirror.value = null
    renderer.setRenderTarget(this.target)
    renderer.render(scene, camera)
    renderer.setRenderTarget(null)
    for (const [i, o] of hidden.entries()) o.visible = shown[i]
    mirrorUniforms.uMirror.value = this.target.texture
    mirrorUniforms.uMirrorTo.value.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    mirrorUniforms.uMirrored.value = 1
  }

  /** Only the sky is mirrored again. */
  off() {
    mirrorUniforms.uMirrored.value = 0
  }

  dispose() {
    this.off()
    mirrorUniforms.uMirror.value = null
    this.target.dispose()
  }
}

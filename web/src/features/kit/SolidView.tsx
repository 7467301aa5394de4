import { Canvas, type RootState } from '@react-three/fiber'
import { useEffect, useMemo, useState } from 'react'
import { Box3, BufferGeometry, DoubleSide, Plane, Vector3 } from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js'

interface Props {
  pieceID: string
  name: string
  /** Height above the underside at which the piece is cut open, in mm. */
  cutMM: number
  fallback: React.ReactNode
}

const canDraw = () => {
  try {
    const canvas = document.createElement('canvas')
    return Boolean(canvas.getContext('webgl2'))
  } catch {
    return false
  }
}

/** The piece, to be turned and zoomed, cut open at a layer. For looking, not for modelling. */
export default function SolidView({ pieceID, name, cutMM, fallback }: Props) {
  const [geometry, setGeometry] = useState<BufferGeometry>()
  const [failed, setFailed] = useState(() => !canDraw())
  useEffect(() => {
    if (failed) return
    const stop = new AbortController()
    fetch(`/api/v1/pieces/${pieceID}/view.stl`, { signal: stop.signal })
      .then(async (r) => {
        if (!r.ok) throw new Error(r.statusText)
        const parsed = new STLLoader().parse(await r.arrayBuffer())
        parsed.computeVertexNormals()
        setGeometry(parsed)
      })
      .catch((e: unknown) => {
        if (!stop.signal.aborted) {
          console.warn('the solid could not be loaded', e)
          setFailed(true)
        }
      })
    return () => stop.abort()
  }, [pieceID, failed])
  useEffect(() => () => geometry?.dispose(), [geometry])
  const box = useMemo(() => {
    geometry?.computeBoundingBox()
    return geometry?.boundingBox ?? new Box3()
  }, [geometry])
  const planes = useMemo(() => [new Plane(new Vector3(0, 0, -1), box.min.z + cutMM)], [box, cutMM])
  if (failed) {
    return (
      <figure className="grid gap-1">
        {fallback}
        <figcaption className="text-sm text-soft">This browser cannot turn it in 3D; a still view instead.</figcaption>
      </figure>
    )
  }
  if (!geometry) return <p className="text-soft">Reading the solid…</p>
  return (
    <div
      className="h-96 touch-none border border-line"
      role="img"
      aria-label={`${name}, a solid to turn: arrow keys turn, + and − zoom`}
    >
      <Canvas frameloop="demand" camera={{ up: [0, 0, 1], fov: 35 }} onCreated={(state) => look(state, box)}>
        <ambientLight intensity={1.1} />
        <directionalLight position={[-60, -90, 130]} intensity={2.2} />
        <mesh geometry={geometry}>
          <meshStandardMaterial color="#9aa8ad" roughness={0.85} side={DoubleSide} clippingPlanes={planes} />
        </mesh>
      </Canvas>
    </div>
  )
}

/** Turn by keyboard, in radians a key. */
const turnBy = 0.15

/** Places the eye before the piece and lets pointer and keys turn it. */
function look({ camera, gl, invalidate }: RootState, box: Box3) {
  const middle = box.getCenter(new Vector3())
  const far = box.getSize(new Vector3()).length() * 1.6 || 1
  camera.position.copy(middle).add(new Vector3(0.55, -0.8, 0.45).normalize().multiplyScalar(far))
  camera.near = far / 100
  camera.far = far * 10
  camera.updateProjectionMatrix()
  gl.localClippingEnabled = true
  const controls = new OrbitControls(camera, gl.domElement)
  controls.target.copy(middle)
  controls.update()
  controls.addEventListener('change', () => invalidate())
  const canvas = gl.domElement
  canvas.tabIndex = 0
  canvas.addEventListener('keydown', (e) => {
    const way = camera.position.clone().sub(controls.target)
    const side = new Vector3().crossVectors(way, camera.up).normalize()
    const turns: Record<string, () => void> = {
      ArrowLeft: () => way.applyAxisAngle(camera.up, -turnBy),
      ArrowRight: () => way.applyAxisAngle(camera.up, turnBy),
      ArrowUp: () => way.applyAxisAngle(side, turnBy),
      ArrowDown: () => way.applyAxisAngle(side, -turnBy),
      '+': () => way.multiplyScalar(0.85),
      '-': () => way.multiplyScalar(1.18),
    }
    const turn = turns[e.key]
    if (!turn) return
    e.preventDefault()
    turn()
    camera.position.copy(controls.target).add(way)
    controls.update()
    invalidate()
  })
}

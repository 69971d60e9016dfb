import { Canvas, type ThreeEvent, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { type Plan, type Turning as Vehicle, words } from '../api/client';
import { pictureUrl } from '../plate/usePlate';
import classes from './Turning.module.css';
import { useSolid } from './useSolid';

interface TurningProps {
  plan: Plan;
  /** What it wears, as a step names it. */
  look: string;
  zone?: string;
  onZone: (zone?: string) => void;
}

/** How many points are drawn for one of the screen while nothing moves, each way. */
const atRest = 2;

/** The vehicle turning in space, drawn from the faces that the core sends. */
export default function Turning(props: TurningProps) {
  const { plan } = props;
  const [alone, setAlone] = useState(false);
  const vehicle = useSolid(plan);
  if (!vehicle.data) {
    return (
      <p className={classes.wait} role={vehicle.error ? 'alert' : 'status'}>
        {vehicle.error ? words(vehicle.error) : 'Building the vehicle …'}
      </p>
    );
  }
  return (
    <div className={classes.space} aria-label={`${plan.name}, turning`} role="application">
      <Canvas
        flat
        dpr={1}
        gl={{ antialias: false, stencil: false, powerPreference: 'high-performance' }}
        frameloop={alone ? 'always' : 'demand'}
        camera={{ fov: 28 }}
      >
        <Scene {...props} vehicle={vehicle.data} alone={alone} />
      </Canvas>
      <p className={classes.told}>
        Drag to turn, wheel to come nearer, click a face to pick its zone.{' '}
        <button type="button" className="word" aria-pressed={alone} onClick={() => setAlone(!alone)}>
          {alone ? 'hold still' : 'let it turn'}
        </button>
        <span className={classes.count} data-triangles={vehicle.data.of.length}>
          {vehicle.data.of.length} triangles
        </span>
      </p>
    </div>
  );
}

/** A colour of the style sheet, as it is now. */
const styled = (name: string) =>
  new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim());

/** How bright each corner is, as the core counts it; a picked zone glows. */
function colours(vehicle: Vehicle, zone?: string): Float32Array {
  const out = new Float32Array(vehicle.of.length * 9);
  const ember = styled('--ember');
  vehicle.of.forEach((of, i) => {
    const light = vehicle.lights[i] ?? 1;
    const glow = vehicle.zones[of] === zone ? [2.2 * ember.r, 2.2 * ember.g, 2.2 * ember.b] : [1, 1, 1];
    for (let k = 0; k < 9; k++) {
      out[9 * i + k] = light * (glow[k % 3] ?? 1);
    }
  });
  return out;
}

function Scene({ vehicle, plan, look, zone, onZone, alone }: TurningProps & { vehicle: Vehicle; alone: boolean }) {
  const { camera, gl, invalidate, setDpr } = useThree();
  const body = useRef<THREE.Group>(null);
  const middle = useMemo(
    () =>
      new THREE.Vector3(
        ((vehicle.low[0] ?? 0) + (vehicle.high[0] ?? 0)) / 2,
        ((vehicle.low[1] ?? 0) + (vehicle.high[1] ?? 0)) / 2,
        ((vehicle.low[2] ?? 0) + (vehicle.high[2] ?? 0)) / 2,
      ),
    [vehicle],
  );
  const long = (vehicle.high[0] ?? 0) - (vehicle.low[0] ?? 0);
  const geometry = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.Float32BufferAttribute(vehicle.positions, 3));
    g.setAttribute('normal', new THREE.Float32BufferAttribute(vehicle.normals, 3));
    // The sheet is laid out from its upper left, a texture from its lower left.
    const uv = Float32Array.from(vehicle.uvs, (v, i) => (i % 2 ? 1 - v : v));
    g.setAttribute('uv', new THREE.BufferAttribute(uv, 2));
    return g;
  }, [vehicle]);
  useEffect(() => {
    geometry.setAttribute('color', new THREE.BufferAttribute(colours(vehicle, zone), 3));
    invalidate();
  }, [geometry, vehicle, zone, invalidate]);
  const edges = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.Float32BufferAttribute(vehicle.edges, 3));
    return g;
  }, [vehicle]);
  const [texture, setTexture] = useState<THREE.Texture>();
  useEffect(() => {
    let here = true;
    new THREE.TextureLoader().load(pictureUrl(plan.build, look, 'worn', 2), (t) => {
      t.colorSpace = THREE.SRGBColorSpace;
      t.minFilter = THREE.LinearMipmapNearestFilter;
      if (here) {
        setTexture(t);
        invalidate();
      }
    });
    return () => {
      here = false;
    };
  }, [plan.build, look, invalidate]);
  useEffect(() => () => texture?.dispose(), [texture]);
  useEffect(
    () => () => {
      geometry.dispose();
      edges.dispose();
    },
    [geometry, edges],
  );

  // The camera stands once, before the left front, and then goes where it is turned.
  useEffect(() => {
    camera.position.set(long * 1.25, long * 0.62, -long * 1.7).multiplyScalar(0.86);
    camera.near = long / 50;
    camera.far = long * 12;
    camera.updateProjectionMatrix();
    const controls = new OrbitControls(camera, gl.domElement);
    controls.addEventListener('change', () => invalidate());
    // Two points for one at rest, where time is plenty: smooth edges.
    controls.addEventListener('start', () => setDpr(1));
    controls.addEventListener('end', () => setDpr(atRest));
    controls.minDistance = long / 4;
    controls.maxDistance = long * 5;
    controls.update();
    invalidate();
    return () => controls.dispose();
  }, [camera, gl, long, invalidate, setDpr]);

  // Where frames take too long it is drawn coarser while it moves, and fine again at rest.
  const pace = useRef({ slow: 0, sharp: 1 });
  useFrame((_, seconds) => {
    if (!alone || !body.current) {
      return;
    }
    body.current.rotation.y += Math.min(seconds, 0.1) * 0.5;
    performance.mark('turned');
    const p = pace.current;
    p.slow = seconds > 1 / 28 ? p.slow + 1 : Math.max(p.slow - 1, 0);
    if (p.slow > 8 && p.sharp > 0.375) {
      p.sharp -= 0.125;
      p.slow = 0;
      setDpr(p.sharp);
    }
  });
  useEffect(() => {
    setDpr(alone ? 1 : atRest);
    if (!alone) {
      pace.current = { slow: 0, sharp: 1 };
      performance.clearMarks('turned');
      invalidate();
    }
  }, [alone, setDpr, invalidate]);
  const pick = (e: ThreeEvent<MouseEvent>) => {
    if (e.delta > 4 || e.faceIndex == null) {
      return; // the end of a turn picks nothing
    }
    e.stopPropagation();
    const name = vehicle.zones[vehicle.of[e.faceIndex] ?? -1];
    onZone(name === zone ? undefined : name);
  };
  return (
    <group ref={body}>
      <group position={middle.clone().negate()}>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: a mesh of the scene, not an element of the page */}
        <mesh geometry={geometry} onClick={pick} visible={texture !== undefined}>
          <meshBasicMaterial
            key={texture?.uuid}
            map={texture ?? null}
            vertexColors
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
        <lineSegments geometry={edges} raycast={() => null}>
          <lineBasicMaterial color={styled('--edge')} />
        </lineSegments>
      </group>
    </group>
  );
}

import { Canvas, type ThreeEvent, useFrame, useThree } from '@react-three/fiber';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { api, ask, type Plan, type Turning as Vehicle, words } from '../api/client';
import { type Coat, reaches } from '../plate/coat';
import classes from './Turning.module.css';

interface TurningProps {
  plan: Plan;
  revision: number;
  coat: Coat;
  zone?: string;
  onZone: (zone?: string) => void;
}

/** How many points wide the painted sheet is. */
const sheetPoints = 2048;

/** How many points are drawn for one of the screen while nothing moves, each way. */
const atRest = 2;

/** The vehicle turning in space, drawn from the faces that the core sends. */
export default function Turning(props: TurningProps) {
  const { plan, revision } = props;
  const [alone, setAlone] = useState(false);
  const vehicle = useQuery({
    queryKey: ['solid', plan.build, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/solid', { params: { path: { id: plan.build } } })),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
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

const resolved = (color: string) =>
  color.startsWith('var(') ? getComputedStyle(document.documentElement).getPropertyValue(color.slice(4, -1)) : color;

/** Paints the sheet that the faces lie on, coat by coat, as the plate shows them. */
function paint(vehicle: Vehicle, plan: Plan, coat: Coat, zone?: string): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = sheetPoints;
  canvas.height = sheetPoints;
  const c = canvas.getContext('2d');
  if (!c) {
    return canvas;
  }
  const k = sheetPoints / vehicle.sheet;
  c.scale(k, k);
  const trace = (rings: number[][]) => {
    const path = new Path2D();
    for (const r of rings) {
      for (let i = 0; i + 1 < r.length; i += 2) {
        path[i ? 'lineTo' : 'moveTo'](r[i] ?? 0, r[i + 1] ?? 0);
      }
      path.closePath();
    }
    return path;
  };
  for (const face of vehicle.faces) {
    const metal = face.zone.endsWith('.track');
    const rubber = face.zone.endsWith('.rubber');
    const outline = trace(face.rings);
    c.save();
    c.fillStyle = resolved(
      metal
        ? 'var(--metal)'
        : rubber
          ? 'var(--rubber)'
          : coat.colours > 0
            ? (plan.colours[0]?.hex ?? '#888')
            : coat.ground,
    );
    c.strokeStyle = c.fillStyle;
    c.lineWidth = 1; // runs over the rim, so that no ground shines through at the edges
    c.stroke(outline);
    c.fill(outline);
    if (!metal && !rubber) {
      for (const p of face.patches ?? []) {
        if (p.colour < coat.colours) {
          c.globalAlpha = p.opacity;
          c.fillStyle = plan.colours[p.colour]?.hex ?? '#888';
          c.fill(trace(p.rings), 'evenodd');
        }
      }
    }
    if (!metal) {
      for (const o of coat.over) {
        if (reaches(o.zones, face.zone)) {
          c.globalAlpha = o.strength;
          c.fillStyle = o.hex;
          c.fill(outline);
        }
      }
    }
    if (metal) {
      // Joints of links: their edges are not drawn as lines.
      c.globalAlpha = 0.7;
      c.strokeStyle = '#1a1a1a';
      c.lineWidth = 0.18;
      c.stroke(outline);
    }
    if (face.zone === zone) {
      c.globalAlpha = 0.5;
      c.fillStyle = resolved('var(--ember)');
      c.fill(outline);
    }
    c.restore();
  }
  return canvas;
}

/** How bright faces are under a lamp at the left above the front. The faces are flat and
 * the lamp turns with the vehicle: it is counted once, which spares slow machines. */
function lit(normals: number[]): Float32Array {
  const lamp = new THREE.Vector3(0.35, 0.8, -0.5).normalize();
  const out = new Float32Array(normals.length);
  for (let i = 0; i + 2 < normals.length; i += 3) {
    const toward = (normals[i] ?? 0) * lamp.x + (normals[i + 1] ?? 0) * lamp.y + (normals[i + 2] ?? 0) * lamp.z;
    out.fill(0.42 + 0.38 * (toward + 0.55), i, i + 3);
  }
  return out;
}

function Scene({ vehicle, plan, coat, zone, onZone, alone }: TurningProps & { vehicle: Vehicle; alone: boolean }) {
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
    g.setAttribute('color', new THREE.BufferAttribute(lit(vehicle.normals), 3));
    return g;
  }, [vehicle]);
  const edges = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.Float32BufferAttribute(vehicle.edges, 3));
    return g;
  }, [vehicle]);
  const texture = useMemo(() => {
    const t = new THREE.CanvasTexture(paint(vehicle, plan, coat, zone));
    t.colorSpace = THREE.SRGBColorSpace;
    t.minFilter = THREE.LinearMipmapNearestFilter;
    return t;
  }, [vehicle, plan, coat, zone]);
  useEffect(() => {
    invalidate();
    return () => texture.dispose();
  }, [texture, invalidate]);
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
        <mesh geometry={geometry} onClick={pick}>
          <meshBasicMaterial map={texture} vertexColors polygonOffset polygonOffsetFactor={1} polygonOffsetUnits={1} />
        </mesh>
        <lineSegments geometry={edges} raycast={() => null}>
          <lineBasicMaterial color="#2b2b2b" />
        </lineSegments>
      </group>
    </group>
  );
}

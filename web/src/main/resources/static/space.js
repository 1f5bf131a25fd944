// A scene in space, for the part of the Gauge and the layers of a plate: turned and neared by hand or keys, drawn only when
// something changed.
import * as THREE from 'three';
import { OrbitControls } from '/webjars/three/examples/jsm/controls/OrbitControls.js';

export { THREE };

/** A colour of the page, as it is now. */
export const ink = name => new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim());

const TURNS = { ArrowLeft: [-0.15, 0], ArrowRight: [0.15, 0], ArrowUp: [0, 0.15], ArrowDown: [0, -0.15] };
const STEPS = { '+': 0.85, '-': 1.18 };
const STEEPEST = 1.5;

/** What draws; null where the browser draws nothing in space. */
export function rendererOf(canvas) {
  try {
    return new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true });
  } catch {
    return null;
  }
}

/**
 * A scene around a sphere; drawn(width, height) is told of every picture.
 * Returns the scene, the camera, ask() for a new picture, and look(around, above): angles in radians, from the whole away.
 */
export function space(canvas, renderer, { center, radius }, drawn = () => {}) {
  const scene = new THREE.Scene();
  const camera = new THREE.PerspectiveCamera(32, 1, radius / 50, radius * 60);
  camera.up.set(0, 0, 1);
  const controls = new OrbitControls(camera, canvas);
  Object.assign(controls, { minDistance: radius * 0.4, maxDistance: radius * 12, minPolarAngle: Math.PI / 2 - STEEPEST, maxPolarAngle: Math.PI / 2 + STEEPEST });
  controls.target.copy(center);

  let asked = false;
  const draw = () => {
    asked = false;
    const width = canvas.clientWidth, height = canvas.clientHeight;
    renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    renderer.setSize(width, height, false);
    camera.aspect = width / height;
    camera.updateProjectionMatrix();
    renderer.render(scene, camera);
    drawn(width, height);
  };
  const ask = () => {
    if (!asked) {
      asked = true;
      requestAnimationFrame(draw);
    }
  };

  const from = (around, above, away) => {
    const flat = Math.cos(above);
    camera.position.set(flat * Math.cos(around), flat * Math.sin(around), Math.sin(above)).multiplyScalar(away).add(controls.target);
    controls.update();
    ask();
  };
  const move = (side, up, nearer) => {
    const at = camera.position.clone().sub(controls.target), away = at.length();
    from(Math.atan2(at.y, at.x) + side, Math.max(-STEEPEST, Math.min(STEEPEST, Math.asin(at.z / away) + up)),
      Math.max(controls.minDistance, Math.min(controls.maxDistance, away * nearer)));
  };
  canvas.addEventListener('keydown', event => {
    if (TURNS[event.key]) move(...TURNS[event.key], 1);
    else if (STEPS[event.key]) move(0, 0, STEPS[event.key]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  });
  controls.addEventListener('change', ask);
  new ResizeObserver(ask).observe(canvas);

  const look = (around, above) => from(around, above, radius * 4.1);
  return { scene, camera, ask, look };
}

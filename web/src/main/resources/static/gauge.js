// The part in space: turns by hand or keys, shows the numbered places of the findings, cuts, measures, lays faces down.
// Drawn only when something changed. Where WebGL is missing the section stays hidden and the drawings say it all.
import { THREE, ink, rendererOf, space } from '/space.js';

const view = document.getElementById('view');
const canvas = view?.querySelector('canvas');
const renderer = canvas && rendererOf(canvas);
// Once somebody looks at it: it is fetched no sooner.
if (renderer) new IntersectionObserver((seen, watch) => {
  if (!seen.some(entry => entry.isIntersecting)) return;
  watch.disconnect();
  start();
}).observe(document.getElementById('findings'));

async function start() {
  const response = await fetch(view.dataset.mesh);
  if (!response.ok) return;
  view.hidden = false;
  const data = new DataView(await response.arrayBuffer());
  const vertices = data.getInt32(0, true), triangles = data.getInt32(4, true);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(data.buffer, 8, 3 * vertices), 3));
  geometry.setIndex(new THREE.BufferAttribute(new Uint32Array(data.buffer, 8 + 12 * vertices, 3 * triangles), 1));
  geometry.computeBoundingBox();
  geometry.computeBoundingSphere();
  const box = geometry.boundingBox, middle = geometry.boundingSphere.center, radius = geometry.boundingSphere.radius;

  const uniforms = {
    paper: { value: ink('--card') }, ink: { value: ink('--ink') }, accent: { value: ink('--terracotta') }, inside: { value: ink('--plum') },
    cut: { value: box.max.z + radius }, stripes: { value: radius / 22 }, hanging: { value: 1 }, bed: { value: box.min.z + 0.05 },
  };
  const material = new THREE.ShaderMaterial({
    side: THREE.DoubleSide, uniforms,
    vertexShader: 'varying vec3 at; void main() { at = position; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
    fragmentShader: `
      uniform vec3 paper, ink, accent, inside; uniform float cut, stripes, hanging, bed; varying vec3 at;
      void main() {
        if (at.z > cut) discard;
        vec3 normal = normalize(cross(dFdx(at), dFdy(at)));
        bool outer = gl_FrontFacing;
        normal *= dot(normal, cameraPosition - at) < 0.0 ? -1.0 : 1.0;
        float light = 0.55 + 0.45 * max(0.0, dot(normal, normalize(vec3(0.35, -0.5, 0.8))));
        vec3 colour = mix(ink, paper, light);
        if (!outer) colour = mix(inside, paper, 0.35 * light);
        else if (hanging > 0.5 && normal.z < -0.7072 && at.z > bed && fract((at.x + at.y + at.z) / stripes) < 0.4) colour = accent;
        gl_FragColor = vec4(colour, 1.0);
        #include <colorspace_fragment>
      }`,
  });
  const { scene, camera, ask, look } = space(canvas, renderer, { center: middle, radius }, drawn);
  const part = new THREE.Mesh(geometry, material);
  scene.add(part);
  const line = new THREE.LineBasicMaterial({ color: ink('--quiet') });
  scene.add(new THREE.LineSegments(new THREE.BufferGeometry().setFromPoints(bedLines(box, radius)), line));
  const ruler = new THREE.Line(new THREE.BufferGeometry(), new THREE.LineBasicMaterial({ color: ink('--terracotta'), depthTest: false }));
  ruler.visible = false;
  scene.add(ruler);

  const stage = view.querySelector('.stage'), told = view.querySelector('.now');
  const pins = [...document.querySelectorAll('#findings button.pin')].map(button => {
    const flag = document.createElement('span');
    flag.className = 'flag';
    flag.textContent = button.textContent;
    flag.hidden = true;
    stage.append(flag);
    return { button, flag, at: new THREE.Vector3(...['x', 'y', 'z'].map(axis => Number(button.dataset[axis]))) };
  });
  let current = -1;

  const ray = new THREE.Raycaster();
  function drawn(width, height) {
    pins.forEach((pin, number) => {
      const seen = pin.at.clone().project(camera);
      pin.flag.hidden = current >= 0 ? number !== current : number > 8;
      pin.flag.style.left = `${(seen.x + 1) / 2 * width}px`;
      pin.flag.style.top = `${(1 - seen.y) / 2 * height}px`;
      pin.flag.classList.toggle('now', number === current);
    });
    if (current >= 0) {
      const pin = pins[current], to = pin.at.clone().sub(camera.position);
      ray.set(camera.position, to.clone().normalize());
      const first = ray.intersectObject(part)[0];
      pin.flag.classList.toggle('behind', Boolean(first) && first.distance < to.length() - radius / 40);
    }
  }
  /** From where a place is seen: of the looks that nothing hides, the one most from its own side of the part. */
  function bestLook(place) {
    const out = place.clone().sub(middle).normalize();
    const home = [Math.atan2(out.y, out.x), Math.max(-0.9, Math.min(1, Math.asin(out.z || 0)))];
    if (triangles > 60000) return home;
    const away = radius * 4.1;
    const looks = [];
    for (let turn = 0; turn < 12; turn++) for (const up of [-0.75, -0.3, 0.3, 0.8]) looks.push([turn * Math.PI / 6, up]);
    const seen = looks.map(([a, u]) => {
      const to = new THREE.Vector3(Math.cos(u) * Math.cos(a), Math.cos(u) * Math.sin(a), Math.sin(u));
      ray.set(place.clone().addScaledVector(to, away), to.clone().negate());
      const first = ray.intersectObject(part)[0];
      return { look: [a, u], hidden: Boolean(first) && first.distance < away - radius / 60, likes: to.dot(out) };
    }).filter(each => !each.hidden).sort((a, b) => b.likes - a.likes);
    return seen.length ? seen[0].look : home;
  }

  function show(number) {
    if (!pins.length) return;
    current = (number + pins.length) % pins.length;
    pins.forEach((pin, i) => (i === current ? pin.button.setAttribute('aria-current', 'true') : pin.button.removeAttribute('aria-current')));
    const pin = pins[current];
    look(...bestLook(pin.at));
    told.textContent = `${pin.button.textContent} of ${pins.length}: ${pin.button.dataset.label}`;
  }
  pins.forEach((pin, i) => pin.button.addEventListener('click', () => show(i)));
  view.querySelectorAll('[data-step]').forEach(button => button.addEventListener('click', () => show(current + Number(button.dataset.step))));

  let pressed = null, mode = '', points = [];
  canvas.addEventListener('pointerdown', event => { pressed = event; });
  canvas.addEventListener('pointerup', event => {
    if (mode && pressed && Math.hypot(event.clientX - pressed.clientX, event.clientY - pressed.clientY) < 4) pick(event);
  });
  canvas.addEventListener('keydown', event => {
    const step = { n: 1, p: -1 }[event.key];
    if (!step) return;
    show(current + step);
    event.preventDefault();
    event.stopPropagation();
  });

  const tool = name => view.querySelector(`[data-tool=${name}]`);
  const faceForm = view.querySelector('.face-form');
  function choose(name) {
    mode = mode === name ? '' : name;
    points = [];
    ruler.visible = false;
    if (faceForm) faceForm.hidden = true;
    for (const each of ['measure', 'face']) tool(each)?.setAttribute('aria-pressed', String(mode === each));
    stage.classList.toggle('picking', mode !== '');
    told.textContent = { measure: 'Point at two places.', face: 'Point at the face that should lie on the bed.' }[mode] ?? '';
    ask();
  }
  tool('measure').addEventListener('click', () => choose('measure'));
  tool('face')?.addEventListener('click', () => choose('face'));
  tool('hanging').addEventListener('change', event => { uniforms.hanging.value = event.target.checked ? 1 : 0; ask(); });
  tool('cut').addEventListener('input', event => {
    const share = Number(event.target.value);
    uniforms.cut.value = share === 1 ? box.max.z + radius : box.min.z + share * (box.max.z - box.min.z);
    told.textContent = share === 1 ? '' : `Cut at ${(share * (box.max.z - box.min.z)).toFixed(1)} mm; what is solid inside shows plum.`;
    ask();
  });

  function pick(event) {
    const frame = canvas.getBoundingClientRect();
    ray.setFromCamera(new THREE.Vector2((event.clientX - frame.left) / frame.width * 2 - 1, 1 - (event.clientY - frame.top) / frame.height * 2), camera);
    const hit = ray.intersectObject(part).find(each => each.point.z <= uniforms.cut.value);
    if (!hit) return;
    if (mode === 'face') {
      ['x', 'y', 'z'].forEach(axis => { faceForm.elements[`n${axis}`].value = hit.face.normal[axis]; });
      faceForm.hidden = false;
      points = [hit.point, hit.point.clone().add(hit.face.normal.clone().multiplyScalar(radius / 3))];
      told.textContent = 'This face would lie on the bed.';
    } else {
      points = points.length === 1 ? [points[0], hit.point] : [hit.point];
      if (points.length === 2) {
        const [a, b] = points, d = b.clone().sub(a);
        told.textContent = `${a.distanceTo(b).toFixed(2)} mm (across ${Math.abs(d.x).toFixed(2)}, deep ${Math.abs(d.y).toFixed(2)}, high ${Math.abs(d.z).toFixed(2)})`;
      }
    }
    ruler.visible = points.length === 2;
    if (ruler.visible) ruler.geometry.setFromPoints(points);
    ask();
  }

  matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => {
    uniforms.paper.value = ink('--card');
    uniforms.ink.value = ink('--ink');
    uniforms.accent.value = ink('--terracotta');
    uniforms.inside.value = ink('--plum');
    line.color = ink('--quiet');
    ask();
  });
  view.dataset.ready = 'true';
  look(-0.7, 0.45);
}

/** A square of the bed under the part, ruled in tens of millimetres as far as that stays readable. */
function bedLines(box, radius) {
  const step = [1, 10, 50, 100, 500].find(each => radius * 3 / each < 30) ?? 1000;
  const round = (value, way) => Math[way](value / step) * step;
  const [x0, x1] = [round(box.min.x - radius * 0.3, 'floor'), round(box.max.x + radius * 0.3, 'ceil')];
  const [y0, y1] = [round(box.min.y - radius * 0.3, 'floor'), round(box.max.y + radius * 0.3, 'ceil')];
  const points = [];
  for (let x = x0; x <= x1; x += step) points.push(new THREE.Vector3(x, y0, box.min.z), new THREE.Vector3(x, y1, box.min.z));
  for (let y = y0; y <= y1; y += step) points.push(new THREE.Vector3(x0, y, box.min.z), new THREE.Vector3(x1, y, box.min.z));
  return points;
}

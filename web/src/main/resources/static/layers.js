// The layers of a toolpath: a strip of those where something happens, one large sheet to step through, and all outer
// walls in space. Layers are fetched when they are wanted, with the next ones ahead, and kept while there is room.
import { THREE, ink, rendererOf, space } from '/space.js';

const film = document.getElementById('film');
const { from, query } = film.dataset;
const count = Number(film.dataset.count);
const sheet = document.getElementById('sheet');
const where = document.getElementById('where');
const slider = document.getElementById('at');
const callouts = [...film.querySelectorAll('.callout')];
const KEPT = 200, AHEAD = 4;
// Of the call-outs, in pixels: the room at each side, a line of them, the sample of a line; and how wide a drawing has to be for them.
const SIDE = 150, LINE = 28, SAMPLE = 30, ROOMY = 560;

// Each kind of line has a colour of the page and a dash of its own, in millimetres; nothing is told by colour alone.
const LOOKS = {
  adhesion: ['--quiet', [3, 1]], support: ['--quiet', [0.6, 0.6]], support_face: ['--plum', [1.2, 0.6]],
  inner_wall: ['--green', []], outer_wall: ['--ink', []], thin_line: ['--plum', []], solid: ['--ochre', []],
  bridge: ['--terracotta', [2, 0.6]], infill: ['--ochre', [2.4, 0.5, 0.5, 0.5]], purge: ['--plum', [0.5, 0.5]],
  other: ['--green', []], travel: ['--terracotta', [0.25, 0.6]],
};
const layers = new Map();
let outline = null, now = 0, playing = 0, most = { speed: 1, flow: 1 };

const colour = name => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

async function layer(number) {
  if (!layers.has(number)) {
    if (layers.size > KEPT) layers.delete(layers.keys().next().value);
    layers.set(number, fetch(`${from}/${number}?${query}`).then(response => {
      if (!response.ok) throw new Error('no layer');
      return response.arrayBuffer();
    }).then(read).catch(() => { layers.delete(number); return []; }));
  }
  return layers.get(number);
}

function read(buffer) {
  const data = new DataView(buffer), paths = [];
  for (let at = 0; at < buffer.byteLength;) {
    const points = data.getInt32(at + 20, true);
    paths.push({
      type: outline.types[data.getInt32(at, true)], drawnBack: data.getInt32(at + 4, true) === 1,
      width: data.getFloat32(at + 8, true), speed: data.getFloat32(at + 12, true), flow: data.getFloat32(at + 16, true),
      points: new Float32Array(buffer, at + 24, 2 * points),
    });
    at += 24 + 8 * points;
  }
  return paths;
}

// Where the box of the whole print lies on a canvas, with room left at its sides; y points up on the bed and down on the screen.
function placed(canvas, side) {
  const ratio = Math.min(2, devicePixelRatio || 1);
  const width = canvas.clientWidth || canvas.width, height = canvas.clientHeight || canvas.height;
  canvas.width = width * ratio;
  canvas.height = height * ratio;
  const [x0, y0, x1, y1] = outline.box;
  const scale = Math.min((width - 16 - 2 * side) / Math.max(1, x1 - x0), (height - 16) / Math.max(1, y1 - y0)) * ratio;
  return { ratio, scale, x: at => canvas.width / 2 + scale * (at - (x0 + x1) / 2), y: at => canvas.height / 2 - scale * (at - (y0 + y1) / 2) };
}

function draw(canvas, paths, view, hidden, side = 0) {
  const { ratio, scale, x, y } = placed(canvas, side), pen = canvas.getContext('2d');
  pen.lineCap = 'round';
  pen.lineJoin = 'round';
  for (const path of paths) {
    if (hidden?.has(path.type)) continue;
    const travel = path.type === 'travel', [name, dash] = LOOKS[path.type];
    pen.setLineDash(view === 'type' || travel ? dash.map(part => Math.max(1, part * scale)) : []);
    pen.strokeStyle = view === 'type' || travel ? colour(name) : shade(path[view] / most[view]);
    pen.lineWidth = travel ? ratio : Math.max(0.7 * ratio, path.width * scale * 0.8);
    pen.beginPath();
    for (let i = 0; i < path.points.length; i += 2) {
      pen.lineTo(x(path.points[i]), y(path.points[i + 1]));
    }
    pen.stroke();
  }
}

// From the colour of the line work for slow or little to the accent for fast or much.
function shade(part) {
  const low = new THREE.Color(colour('--line')), high = new THREE.Color(colour('--terracotta'));
  return `#${low.lerp(high, Math.min(1, part)).getHexString()}`;
}

function hidden() {
  return new Set(callouts.filter(callout => callout.getAttribute('aria-pressed') === 'false').map(callout => outline.types[callout.dataset.type]));
}

// Names each kind of line on the drawing itself, as on a workshop drawing: a line leads from its longest stretch to its name at the
// nearer side; what is hidden, or on a small screen, stands below.
function call(paths) {
  const roomy = sheet.clientWidth >= ROOMY, { ratio, x, y } = placed(sheet, roomy ? SIDE : 0), out = hidden(), pen = sheet.getContext('2d');
  draw(sheet, paths, film.querySelector('[name=view]:checked').value, out, roomy ? SIDE : 0);
  const longest = new Map();
  for (const path of paths) if ((longest.get(path.type)?.points.length ?? 0) < path.points.length) longest.set(path.type, path);
  const sides = [[], []];
  for (const callout of callouts) {
    const type = outline.types[callout.dataset.type], path = longest.get(type), led = roomy && path && !out.has(type);
    callout.classList.toggle('led', Boolean(led));
    callout.hidden = !path;
    callout.style.cssText = '';
    if (!led) continue;
    const middle = 2 * Math.floor(path.points.length / 4), at = { callout, type, x: x(path.points[middle]) / ratio, y: y(path.points[middle + 1]) / ratio };
    const side = at.x > sheet.clientWidth / 2 ? 1 : 0;
    sides[sides[side].length > sides[1 - side].length + 1 ? 1 - side : side].push(at);
  }
  sides.forEach((all, right) => {
    all.sort((one, other) => one.y - other.y);
    let free = 4;
    all.forEach((at, i) => {
      const top = Math.max(free, Math.min(at.y - LINE / 2, sheet.clientHeight - (all.length - i) * LINE));
      free = top + LINE;
      at.callout.style.top = `${top}px`;
      at.callout.style[right ? 'right' : 'left'] = '0';
      const end = right ? sheet.clientWidth - SIDE : SIDE, [name, dash] = LOOKS[at.type];
      pen.strokeStyle = colour('--quiet');
      pen.lineWidth = ratio;
      pen.setLineDash([]);
      pen.beginPath();
      pen.arc(at.x * ratio, at.y * ratio, 2.5 * ratio, 0, 2 * Math.PI);
      pen.moveTo(at.x * ratio, at.y * ratio);
      pen.lineTo(end * ratio, (top + LINE / 2) * ratio);
      pen.stroke();
      pen.strokeStyle = colour(name);
      pen.lineWidth = 3 * ratio;
      pen.setLineDash(dash.map(part => part * 5 * ratio));
      pen.beginPath();
      pen.moveTo(end * ratio, (top + LINE / 2) * ratio);
      pen.lineTo((end + (right ? SAMPLE : -SAMPLE)) * ratio, (top + LINE / 2) * ratio);
      pen.stroke();
    });
  });
}

async function show(number) {
  now = Math.max(0, Math.min(count - 1, number));
  slider.value = now + 1;
  const seconds = outline.seconds[now];
  const flags = [...film.querySelectorAll(`.filmstrip [data-layer="${now}"] strong`)].map(flag => flag.textContent);
  where.textContent = `layer ${now + 1} of ${count}, top ${outline.tops[now]} mm`
    + (seconds === undefined ? '' : `, ${Math.round(seconds)} s`) + (flags.length ? `: ${flags.join(', ')}` : '');
  film.querySelectorAll('.filmstrip button').forEach(button => button.toggleAttribute('aria-current', Number(button.dataset.layer) === now));
  const wanted = now, paths = await layer(now);
  if (wanted !== now) return;
  const view = film.querySelector('[name=view]:checked').value;
  most = {
    speed: Math.max(1, ...paths.filter(path => path.type !== 'travel').map(path => path.speed)),
    flow: Math.max(0.1, ...paths.map(path => path.flow)),
  };
  const scale = document.getElementById('scale');
  scale.hidden = view === 'type';
  scale.textContent = view === 'speed' ? `Faint is slow, the accent is ${Math.round(most.speed)} mm/s, the fastest on this layer.`
    : `Faint is little, the accent is ${most.flow.toFixed(1)} mm³/s, the most on this layer.`;
  call(paths);
  film.dataset.shown = String(now + 1);
  for (let ahead = 1; ahead <= AHEAD; ahead++) {
    if (now + ahead < count) layer(now + ahead);
    if (now - ahead >= 0 && ahead < 2) layer(now - ahead);
  }
}

function play(on) {
  clearInterval(playing);
  playing = on ? setInterval(() => (now + 1 < count ? show(now + 1) : play(false)), 80) : 0;
  const button = film.querySelector('[data-play]');
  button.setAttribute('aria-pressed', String(on));
  button.textContent = on ? 'Stop' : 'Play';
}

const response = await fetch(`${from}/outline?${query}`);
if (response.ok) {
  outline = await response.json();
  outline.seconds ??= [];
  film.addEventListener('click', event => {
    const callout = event.target.closest('.callout');
    if (callout) {
      callout.setAttribute('aria-pressed', String(callout.getAttribute('aria-pressed') === 'false'));
      show(now);
    }
    const flag = event.target.closest('[data-layer]'), step = event.target.closest('[data-step]');
    if (flag) show(Number(flag.dataset.layer));
    if (step) show(now + Number(step.dataset.step));
    if (event.target.closest('[data-play]')) play(!playing);
  });
  film.addEventListener('change', () => show(now));
  slider.addEventListener('input', () => show(slider.value - 1));
  addEventListener('resize', () => show(now));
  addEventListener('keydown', event => {
    if (event.target.closest('input:not(#at), select, textarea, #space') || event.ctrlKey || event.metaKey || event.altKey) return;
    const to = { ArrowRight: now + 1, ArrowLeft: now - 1, Home: 0, End: count - 1, PageUp: now + 10, PageDown: now - 10 }[event.key];
    if (to !== undefined) {
      event.preventDefault();
      show(to);
    } else if (event.key === ' ' && !event.target.closest('button')) {
      event.preventDefault();
      play(!playing);
    }
  });
  await show(0);
  for (const button of film.querySelectorAll('.filmstrip button')) {
    draw(button.querySelector('canvas'), await layer(Number(button.dataset.layer)), 'type', new Set(['travel']));
  }
  inSpace();
}

// All outer walls, supports paler; drawn only when something moves.
async function inSpace() {
  const canvas = document.getElementById('space');
  const renderer = rendererOf(canvas);
  if (!renderer) {
    canvas.parentElement.hidden = true;
    document.getElementById('no-space').hidden = false;
    return;
  }
  const answer = await fetch(`${from}/stack?${query}`);
  if (!answer.ok) return;
  const data = new Float32Array(await answer.arrayBuffer()), lines = data.length / 7;
  const places = new Float32Array(6 * lines), shades = new Float32Array(6 * lines);
  const dark = ink('--ink'), pale = ink('--quiet');
  const top = Number(outline.tops.at(-1)) || 1, low = ink('--green');
  for (let i = 0; i < lines; i++) {
    places.set(data.subarray(7 * i, 7 * i + 6), 6 * i);
    const tint = data[7 * i + 6] ? pale : dark.clone().lerp(low, data[7 * i + 2] / top);
    for (let end = 0; end < 2; end++) shades.set([tint.r, tint.g, tint.b], 6 * i + 3 * end);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(places, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(shades, 3));
  geometry.computeBoundingSphere();
  const { scene, look } = space(canvas, renderer, geometry.boundingSphere);
  scene.add(new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.7 })));
  look(-0.9, 0.5);
}

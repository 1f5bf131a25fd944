// Boxes drawn on the part, seen from above and from the front: what is dragged here stands in the table, and what is
// typed there is drawn here. Millimetres from the part's front left lower corner.
const boxes = document.getElementById('boxes');
const table = boxes.querySelector('table.boxes'), rows = table.tBodies[0];
const AXES = { above: [['boxLeft', 'boxRight'], ['boxFront', 'boxBack']], front: [['boxLeft', 'boxRight'], ['boxFrom', 'boxTo']] };
let chosen = null, drag = null;

const field = (row, name) => row.querySelector(`[name=${name}]`);
const value = (row, name) => Number(field(row, name).value.replace(',', '.'));
const put = (row, name, mm) => { field(row, name).value = String(Math.round(mm * 10) / 10); };
const sheets = () => [...boxes.querySelectorAll('svg.sheet')];
const span = view => {
  const sheet = sheets().find(one => one.dataset.view === view);
  return sheet ? [Number(sheet.dataset.width), Number(sheet.dataset.height)] : [10, 10];
};

function draw() {
  table.classList.toggle('none', rows.rows.length === 0);
  [...rows.rows].forEach((row, number) => {
    row.cells[0].textContent = number + 1;
    row.classList.toggle('chosen', row === chosen);
  });
  for (const sheet of sheets()) {
    sheet.querySelector('.drawn').replaceChildren(...[...rows.rows].map(row => {
      const rect = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
      const [[x0, x1], [y0, y1]] = AXES[sheet.dataset.view].map(pair => pair.map(name => value(row, name)));
      rect.setAttribute('x', Math.min(x0, x1) || 0);
      rect.setAttribute('y', Math.min(y0, y1) || 0);
      rect.setAttribute('width', Math.abs(x1 - x0) || 0);
      rect.setAttribute('height', Math.abs(y1 - y0) || 0);
      rect.classList.toggle('chosen', row === chosen);
      return rect;
    }));
  }
}

// Tells the form that the plan has changed.
const changed = () => rows.dispatchEvent(new Event('change', { bubbles: true }));

function add() {
  const row = boxes.querySelector('template').content.querySelector('tr').cloneNode(true);
  const [width, depth] = span('above'), [, height] = span('front');
  const sides = { boxLeft: width / 4, boxRight: 3 * width / 4, boxFront: depth / 4, boxBack: 3 * depth / 4, boxFrom: 0, boxTo: height };
  for (const [name, mm] of Object.entries(sides)) put(row, name, mm);
  rows.append(row);
  chosen = row;
  return row;
}

function place(sheet, event) {
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(sheet.getScreenCTM().inverse());
  return [point.x, -point.y];
}

boxes.addEventListener('pointerdown', event => {
  const sheet = event.target.closest('svg.sheet');
  if (!sheet) return;
  event.preventDefault();
  sheet.setPointerCapture(event.pointerId);
  const axes = AXES[sheet.dataset.view], at = place(sheet, event), drawn = event.target.closest('rect');
  if (drawn) {
    chosen = rows.rows[[...drawn.parentNode.children].indexOf(drawn)];
    drag = { sheet, axes, at, from: axes.map(pair => pair.map(name => value(chosen, name))) };
  } else {
    drag = { sheet, axes: sheet.dataset.view === 'above' ? axes : axes.slice(1), at };
  }
  draw();
});
boxes.addEventListener('pointermove', event => {
  if (!drag) return;
  const to = place(drag.sheet, event);
  if (!drag.from && !drag.begun) {
    if (Math.hypot(to[0] - drag.at[0], to[1] - drag.at[1]) < 0.5) return;
    drag.begun = true;
    if (drag.sheet.dataset.view === 'above' || !chosen) add();
  }
  const places = drag.axes.length === 1 ? [1] : [0, 1];
  drag.axes.forEach((pair, axis) => {
    const from = drag.at[places[axis]], now = to[places[axis]];
    pair.forEach((name, end) => put(chosen, name, drag.from ? drag.from[axis][end] + now - from
      : end === 0 ? Math.min(from, now) : Math.max(from, now)));
  });
  draw();
});
boxes.addEventListener('pointerup', () => {
  if (drag?.from || drag?.begun) changed();
  drag = null;
});
boxes.addEventListener('pointercancel', () => { drag = null; });
boxes.addEventListener('click', event => {
  if (event.target.closest('[data-box-add]')) {
    field(add(), 'boxLeft').focus();
  } else if (event.target.closest('[data-box-remove]')) {
    event.target.closest('tr').remove();
    chosen = null;
  } else {
    return;
  }
  draw();
  changed();
});
boxes.addEventListener('focusin', event => {
  chosen = event.target.closest('table.boxes tbody tr') ?? chosen;
  draw();
});
boxes.addEventListener('input', draw);
boxes.addEventListener('htmx:afterSettle', draw);
draw();

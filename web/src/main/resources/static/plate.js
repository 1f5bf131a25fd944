// A plate by hand: copies are dragged, moved with the arrow keys and turned; where a run has ended, they are touched to say
// which of them did not come out well.
const svg = document.querySelector('svg.plate');
const copies = [...svg.querySelectorAll('.copy')];

const form = document.getElementById('plate');
if (form?.dataset.draft === 'true') {
  const depth = Number(form.dataset.depth);
  const moved = document.getElementById('moved');
  // An outline is drawn as it lies when the page comes; turned on, its box has another middle.
  const lay = new Map(copies.map(copy => [copy, { turn: Number(copy.dataset.turn), points: [...copy.querySelector('path').getAttribute('d').matchAll(/(-?[\d.]+) (-?[\d.]+)/g)]
    .map(([, px, py]) => [Number(px), Number(py)]) }]));
  const turned = copy => {
    const { turn, points } = lay.get(copy), further = Number(copy.dataset.turn) - turn, rad = -further * Math.PI / 180;
    const middle = axis => {
      const all = points.map(([px, py]) => axis ? px * Math.sin(rad) + py * Math.cos(rad) : px * Math.cos(rad) - py * Math.sin(rad));
      return Math.round((Math.min(...all) + Math.max(...all)) * 50) / 100;
    };
    return `translate(${-middle(0)} ${-middle(1)}) rotate(${-further})`;
  };
  const put = copy => {
    const { x, y, turn } = copy.dataset;
    copy.setAttribute('transform', `translate(${x} ${y})`);
    copy.querySelector('path').setAttribute('transform', turned(copy));
    const name = `place-${copy.dataset.copy}-`;
    form.elements[`${name}x`].value = x;
    form.elements[`${name}y`].value = depth - y;
    form.elements[`${name}turn`].value = turn;
    moved.hidden = false;
  };
  const at = event => new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  const shift = (copy, dx, dy) => {
    copy.dataset.x = Math.round((Number(copy.dataset.x) + dx) * 100) / 100;
    copy.dataset.y = Math.round((Number(copy.dataset.y) + dy) * 100) / 100;
    put(copy);
  };
  for (const copy of copies) {
    let last = null;
    copy.addEventListener('pointerdown', event => {
      copy.setPointerCapture(event.pointerId);
      copy.focus();
      last = at(event);
      event.preventDefault();
    });
    copy.addEventListener('pointermove', event => {
      if (!last) return;
      const now = at(event);
      shift(copy, now.x - last.x, now.y - last.y);
      last = now;
    });
    copy.addEventListener('pointerup', () => { last = null; });
    copy.addEventListener('keydown', event => {
      const step = event.shiftKey ? 10 : 1;
      const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
      if (way) {
        shift(copy, way[0] * step, way[1] * step);
      } else if (event.key.toLowerCase() === 'r') {
        copy.dataset.turn = (Number(copy.dataset.turn) + (event.shiftKey ? -15 : 15) + 360) % 360;
        put(copy);
      } else {
        return;
      }
      event.preventDefault();
    });
  }
}

// Where a run has ended.
for (const copy of copies) {
  const choice = document.querySelector(`select[data-copy="${copy.dataset.copy}"]`);
  if (choice) {
    const show = () => { copy.dataset.outcome = choice.value; };
    const touch = () => {
      choice.value = choice.value === 'WELL' ? 'FAILED' : 'WELL';
      show();
    };
    choice.addEventListener('change', show);
    copy.addEventListener('click', touch);
    copy.addEventListener('keydown', event => {
      if (event.key === 'Enter' || event.key === ' ') {
        touch();
        event.preventDefault();
      }
    });
    show();
  }
}

// The timeline by hand: a plate is dragged, or carried with the arrow keys, to another place on any printer. What that would do is
// shown before it is let go; Enter puts it there, Escape leaves it where it was.
let carried = null;

const bars = lane => [...lane.querySelectorAll('.bar.waits')];
const middle = bar => { const box = bar.getBoundingClientRect(); return box.left + box.width / 2; };
const lanes = () => [...document.querySelectorAll('#timeline .lane')];

const look = () => {
  const { plate, lane, before } = carried, place = `${lane.dataset.printer} ${before ?? ''}`;
  if (carried.place === place) return;
  carried.place = place;
  for (const each of lanes()) each.classList.toggle('over', each === lane);
  const query = new URLSearchParams({ printer: lane.dataset.printer, ...before && { before } });
  carried.asked = htmx.ajax('GET', `/floor/plates/${plate}/carried?${query}`, { target: '#carried', swap: 'innerHTML' });
};
const letGo = () => {
  for (const each of lanes()) each.classList.remove('over');
  carried?.bar.removeAttribute('transform');
  carried?.bar.classList.remove('carried');
  carried = null;
};
const leave = () => { letGo(); document.getElementById('carried').replaceChildren(); };
const put = async () => {
  const { asked } = carried;
  letGo();
  await asked;
  document.querySelector('#carried button')?.focus();
};
const take = bar => ({ bar, plate: bar.dataset.plate, lane: bar.closest('.lane') });

document.addEventListener('pointerdown', event => {
  const bar = event.target.closest?.('#timeline[data-moves] .bar.waits');
  if (bar && event.button === 0) carried = { ...take(bar), from: [event.clientX, event.clientY], dragged: false };
});
document.addEventListener('pointermove', event => {
  if (!carried?.from) return;
  const [x, y] = carried.from, scale = carried.bar.ownerSVGElement.getScreenCTM().a;
  if (!carried.dragged && Math.hypot(event.clientX - x, event.clientY - y) < 6) return;
  carried.dragged = true;
  carried.bar.classList.add('carried');
  carried.bar.setAttribute('transform', `translate(${(event.clientX - x) / scale} ${(event.clientY - y) / scale})`);
  const over = lanes().find(lane => { const box = lane.querySelector('.ground').getBoundingClientRect(); return event.clientY >= box.top && event.clientY < box.bottom; });
  if (!over) return;
  carried.lane = over;
  carried.before = bars(over).find(bar => bar !== carried.bar && middle(bar) > event.clientX)?.dataset.plate;
  look();
});
document.addEventListener('pointerup', () => {
  if (!carried?.from) return;
  if (carried.dragged) {
    addEventListener('click', event => event.preventDefault(), { capture: true, once: true });
    setTimeout(put);
  } else {
    carried = null;
  }
});
document.addEventListener('dragstart', event => { if (event.target.closest?.('#timeline')) event.preventDefault(); });

document.addEventListener('keydown', event => {
  const bar = event.target.closest?.('#timeline[data-moves] .bar.waits');
  if (event.key === 'Escape' && carried) return leave();
  if (!bar || !event.key.startsWith('Arrow')) {
    if (event.key === 'Enter' && carried && !carried.from) {
      event.preventDefault();
      put();
    }
    return;
  }
  event.preventDefault();
  if (!carried) {
    const lane = bar.closest('.lane'), row = bars(lane);
    carried = { ...take(bar), index: row.indexOf(bar) };
    bar.classList.add('carried');
  }
  const all = lanes(), others = () => bars(carried.lane).filter(each => each !== bar);
  if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    carried.lane = all[Math.min(all.length - 1, Math.max(0, all.indexOf(carried.lane) + (event.key === 'ArrowUp' ? -1 : 1)))];
    const at = others().findIndex(each => middle(each) > middle(bar));
    carried.index = at < 0 ? others().length : at;
  } else {
    carried.index = Math.min(others().length, Math.max(0, carried.index + (event.key === 'ArrowLeft' ? -1 : 1)));
  }
  carried.before = others()[carried.index]?.dataset.plate;
  look();
});

// What is being carried, or looked at before it is put somewhere, is not taken away by news of the floor.
document.addEventListener('htmx:beforeSwap', event => {
  if (event.detail.target?.id === 'floor' && (carried || document.querySelector('#carried form'))) event.detail.shouldSwap = false;
});

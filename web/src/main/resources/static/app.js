// The Counter takes files dropped or pasted anywhere on the page; "?" shows the keys.
(() => {
  const form = document.querySelector('form.drop');
  if (form) {
    const input = form.querySelector('input[type=file]');
    const limit = Number(form.dataset.limitMb) * 1024 * 1024;
    const notice = document.getElementById('notice');
    const take = files => {
      if (!files.length) return;
      input.files = files;
      form.requestSubmit();
    };
    addEventListener('dragover', event => { event.preventDefault(); form.classList.add('over'); });
    addEventListener('dragleave', event => { if (!event.relatedTarget) form.classList.remove('over'); });
    addEventListener('drop', event => {
      event.preventDefault();
      form.classList.remove('over');
      take(event.dataTransfer.files);
    });
    addEventListener('paste', event => take(event.clipboardData.files));
    input.addEventListener('change', () => take(input.files));
    form.addEventListener('htmx:beforeRequest', event => {
      const file = input.files[0];
      if (file && file.size > limit) {
        event.preventDefault();
        const size = (file.size / 1024 / 1024).toFixed(1);
        notice.innerHTML = '<div class="wrong" role="alert"></div>';
        notice.firstChild.textContent = `The file has ${size} MB; the limit is ${form.dataset.limitMb} MB. Nothing was sent.`;
        return;
      }
      form.classList.add('sending');
    });
    form.addEventListener('htmx:xhr:progress', event => {
      const bar = form.querySelector('progress');
      if (event.detail.lengthComputable) bar.value = event.detail.loaded / event.detail.total;
    });
    form.addEventListener('htmx:afterRequest', event => {
      if (!event.detail.xhr.getResponseHeader('HX-Redirect')) form.classList.remove('sending');
    });
  }

  const keys = document.getElementById('keys');
  const places = { c: '/counter', f: '/floor', s: '/stores', l: '/ledger', h: '/handbook', m: '/members' };
  let going = false;
  addEventListener('keydown', event => {
    if (event.target.closest('input, textarea, select') || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === '?' && keys) keys.showModal();
    else if (going && places[event.key]) location.href = places[event.key];
    going = event.key === 'g';
  });

  const slide = document.getElementById('slide');
  slide?.addEventListener('input', () => {
    const scale = document.getElementById('scale');
    scale.value = String(Number((100 * 10 ** slide.value).toPrecision(3)));
    scale.dispatchEvent(new Event('input', { bubbles: true }));
  });

  // Choosing what to compare in the trade table is no change of the plan around it.
  for (const kind of ['change', 'input']) {
    document.addEventListener(kind, event => {
      if (!event.target.closest('#trade')) return;
      event.stopPropagation();
      if (kind === 'change') htmx.trigger(event.target, 'compare');
    }, true);
  }

  document.body.addEventListener('click', event => {
    const setting = event.target.closest('[data-set]');
    const field = setting && document.getElementById(setting.dataset.set);
    if (field) {
      field.value = setting.dataset.to;
      field.dispatchEvent(new Event('change', { bubbles: true }));
    }
    if (event.target.closest('[data-print]')) print();
    const question = event.target.closest('[data-ask]');
    if (question && !confirm(question.dataset.ask)) event.preventDefault();
  });
})();

// Nothing typed or dropped is lost when the server is away or the session over. The Counter takes files dropped or pasted
// anywhere on the page; "?" shows the keys.
(() => {
  // Before the whole page has come a step at its top would send half a form.
  document.documentElement.classList.add('whole');
  const trouble = document.getElementById('trouble');
  const KEPT = ' What you entered is still here: send it again afterwards.';
  const say = (sentence, link) => {
    trouble.textContent = sentence + (sentence ? KEPT : '');
    if (link) {
      const anchor = document.createElement('a');
      Object.assign(anchor, { href: link, target: '_blank', textContent: 'Sign in in another tab' });
      trouble.append(' ', anchor, '.');
    }
    trouble.hidden = !sentence;
    if (sentence) trouble.scrollIntoView({ block: 'nearest' });
  };
  const overSentence = 'Your session is over. Nothing was sent.';
  const refusals = { 401: overSentence, 403: 'Your account may not do this, or your session is over. Nothing was changed.',
    408: 'The file came too slowly. Nothing was stored.',
    507: 'The disk of the lab’s computer is full, or may not be written. Nothing was stored.', 413: 'That is more than this lab takes in at once. Nothing was stored.' };

  // Who is signed in by now, and the token that forms are sent with; false when the form had better not be sent.
  const alive = async () => {
    let now;
    try {
      const answer = await fetch('/alive', { cache: 'no-store' });
      if (!answer.ok) throw new Error(answer.status);
      now = await answer.json();
    } catch {
      say('The server cannot be reached. Nothing was sent.');
      return false;
    }
    const expected = document.body.dataset.who ?? '';
    if (expected && now.who !== expected) {
      say(now.who ? `“${now.who}” has signed in here meanwhile. Nothing was sent.` : overSentence, now.who ? null : '/sign-in');
      return false;
    }
    if (now.trouble) {
      say(`${now.trouble} Nothing was sent.`);
      return false;
    }
    for (const field of document.querySelectorAll('input[name=_csrf]')) field.value = now.token;
    document.body.setAttribute('hx-headers', JSON.stringify({ 'X-CSRF-TOKEN': now.token }));
    say('');
    return true;
  };
  addEventListener('submit', async event => {
    const form = event.target;
    if (form.method !== 'post' || form.hasAttribute('hx-post') || form.dataset.alive || event.defaultPrevented
        || !document.body.dataset.who) return;
    event.preventDefault();
    const button = event.submitter;
    if (await alive()) {
      form.dataset.alive = 'yes';
      // Its place on the page, or its button's, may have been filled anew meanwhile; it goes out as it was pressed.
      if (!form.isConnected) {
        form.hidden = true;
        form.elements._csrf.value = JSON.parse(document.body.getAttribute('hx-headers'))['X-CSRF-TOKEN'];
        document.body.append(form);
      }
      if (button?.isConnected === false) {
        button.hidden = true;
        form.append(button);
      }
      form.requestSubmit(button);
      delete form.dataset.alive;
    }
  });
  document.addEventListener('htmx:responseError', event => {
    const status = event.detail.xhr.status;
    say(refusals[status] ?? 'Something went wrong on the server. What was kept before is safe.', status === 401 || status === 403 ? '/sign-in' : null);
  });
  document.addEventListener('htmx:sendError', () => say('The server cannot be reached. Nothing was sent.'));
  document.addEventListener('htmx:confirm', event => {
    if (event.detail.verb !== 'post' || event.detail.elt.dataset.alive) return;
    event.preventDefault();
    alive().then(fine => fine && event.detail.issueRequest(true));
  });

  // A form that was refused is filled in again as it was sent, and what it is folded into opened.
  const entered = document.getElementById('entered');
  if (entered) {
    const { address, values } = JSON.parse(entered.dataset.form);
    const again = [...document.forms].find(each => new URL(each.action).pathname === address);
    for (const field of again?.elements ?? []) {
      const all = values[field.name] ?? [];
      if (['checkbox', 'radio'].includes(field.type)) field.checked = all.includes(field.value);
      else if (field.type !== 'hidden' && all.length) field.value = all.shift();
    }
    for (let fold = again?.closest('details'); fold; fold = fold.parentElement.closest('details')) fold.open = true;
  }

  const form = document.querySelector('form.drop');
  if (form) {
    const input = form.querySelector('input[type=file]');
    const limit = Number(form.dataset.limitMb) * 1024 * 1024;
    const notice = document.getElementById('notice');
    // Several files go one after another, each with its own line; what becomes of one does not hold up the others.
    const takeAll = async files => {
      if (!await alive()) return;
      const list = document.getElementById('taking'), token = form.elements.token.value + Math.random();
      const lines = files.map(file => {
        const line = document.createElement('li');
        line.append(Object.assign(document.createElement('progress'), { max: 1, value: 0 }), ` ${file.name} `);
        line.progress = line.firstChild;
        list.append(line);
        return line;
      });
      for (let i = 0; i < files.length; i++) await takeOne(files[i], lines[i], `${token}-${i}`);
      const { then, list: target } = form.dataset;
      htmx.ajax('GET', then, { target, select: target, swap: 'outerHTML' });
    };
    const takeOne = (file, line, token) => new Promise(taken => {
      const over = (sentence, link) => {
        line.progress.remove();
        line.append(link ? Object.assign(document.createElement('a'), { href: link, textContent: sentence }) : sentence);
        line.classList.toggle('stops', !link);
        taken();
      };
      if (file.size > limit) return over(`■ is larger than ${form.dataset.limitMb} MB. It was not sent.`);
      const body = new FormData(), request = new XMLHttpRequest();
      body.append('token', token);
      body.append('file', file);
      request.open('POST', form.getAttribute('hx-post'));
      for (const [name, value] of Object.entries({ ...JSON.parse(document.body.getAttribute('hx-headers')), 'HX-Request': 'true' })) request.setRequestHeader(name, value);
      request.upload.onprogress = event => { if (event.lengthComputable) line.progress.value = event.loaded / event.total; };
      request.onload = () => {
        const next = request.getResponseHeader('HX-Redirect');
        if (next) return over(/^\/(tickets|mine)\/\d+$/.test(next) ? `● ticket no. ${next.split('/').pop()}` : '◆ to be sorted', next);
        const said = new DOMParser().parseFromString(request.responseText, 'text/html').body.textContent.trim().replace(/\s+/g, ' ');
        over(`■ ${request.status === 200 ? said : refusals[request.status] ?? 'Something went wrong on the server. It was not stored.'}`);
      };
      request.onerror = () => over('■ The server cannot be reached. It was not stored.');
      request.send(body);
    });
    const take = files => {
      if (files.length > 1) return takeAll([...files]);
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

  // The event of the stream for which something was asked; none for what people do.
  const askedFor = ({ requestConfig }) => requestConfig?.triggeringEvent?.target === document.body ? requestConfig.triggeringEvent.type : null;

  // What was unfolded stays so when its place on the page is filled anew.
  let unfolded = [];
  const unfoldedIn = place => [place, ...place.querySelectorAll('details')].filter(each => each.matches('details[id][open]')).map(details => details.id);
  const unfold = () => { for (const id of unfolded) document.getElementById(id)?.setAttribute('open', ''); };
  const changedAt = new WeakMap(), askedAt = new WeakMap();
  for (const kind of ['input', 'change']) {
    document.addEventListener(kind, event => {
      const form = event.target.closest('form');
      if (form) changedAt.set(form, performance.now());
    }, true);
  }
  document.addEventListener('htmx:beforeSend', event => askedAt.set(event.detail.xhr, performance.now()));
  document.addEventListener('htmx:beforeSwap', event => {
    // An answer to what a form held before somebody changed it comes too late.
    const form = event.detail.target.closest('form');
    if (changedAt.get(form) > askedAt.get(event.detail.xhr)) {
      event.detail.shouldSwap = false;
      const asked = askedFor(event.detail);
      if (asked) meanwhile.add(asked);
    }
    unfolded = unfoldedIn(event.detail.target);
  });
  document.addEventListener('htmx:oobBeforeSwap', event => unfolded.push(...unfoldedIn(event.detail.target)));
  document.addEventListener('htmx:afterSettle', unfold);
  document.addEventListener('htmx:afterSwap', unfold);

  // What is being pressed stays in its place until it is let go; what came for the place meanwhile is asked for again.
  let pressed = null;
  const heldBack = new Set();
  addEventListener('pointerdown', event => { pressed = event.target; }, true);
  for (const kind of ['pointerup', 'pointercancel']) {
    addEventListener(kind, () => setTimeout(() => {
      pressed = null;
      heldBack.forEach(happened);
      heldBack.clear();
    }), true);
  }
  document.addEventListener('htmx:beforeSwap', event => {
    const asked = askedFor(event.detail);
    if (!asked || !event.detail.target.contains(pressed)) return;
    event.detail.shouldSwap = false;
    heldBack.add(asked);
  });

  // Whoever was at work in a place that is filled anew stays at what they were at: at what has its number, or is called and leads as it did;
  // when that is gone, at the place itself.
  let workedAt = null;
  const known = element => [element.tagName, element.name, element.value, element.type, element.getAttribute('href'), element.form?.getAttribute('action'),
    element.getAttribute('aria-label') ?? element.textContent.trim()].join('|');
  const remember = event => {
    const at = document.activeElement, place = event.detail.target;
    if (at !== document.body && place.contains(at)) workedAt = { id: at.id, known: known(at), tag: at.tagName, place: place.id };
  };
  document.addEventListener('htmx:beforeSwap', remember);
  document.addEventListener('htmx:oobBeforeSwap', remember);
  document.addEventListener('htmx:afterSettle', () => {
    if (!workedAt) return;
    const { id, known: as, tag, place } = workedAt;
    workedAt = null;
    if (document.activeElement !== document.body) return;
    const again = (id && document.getElementById(id)) || [...document.getElementsByTagName(tag)].find(each => known(each) === as), left = document.getElementById(place);
    again?.focus({ preventScroll: true });
    if (document.activeElement !== document.body || !left) return;
    left.tabIndex = -1;
    left.focus({ preventScroll: true });
  });

  // What waits for something on the page asks again when the server says that something went on; one stream for all tabs of the browser
  // where it can be shared, and only while anybody looks. Who looks again catches up.
  const EVENTS = ['worked', 'floor', 'machine', 'alarm'];
  // An answer shows what was when it was asked for: what happens until it has settled is asked about after.
  const asking = new Set(), meanwhile = new Set();
  const happened = event => { if (asking.size > 0) meanwhile.add(event); else htmx.trigger(document.body, event); };
  document.addEventListener('htmx:beforeSend', ({ detail }) => {
    if (!askedFor(detail)) return;
    const { xhr } = detail;
    asking.add(xhr);
    xhr.addEventListener('loadend', () => setTimeout(() => {
      asking.delete(xhr);
      if (asking.size > 0) return;
      const missed = [...meanwhile];
      meanwhile.clear();
      for (const event of missed) htmx.trigger(document.body, event);
    }, htmx.config.defaultSettleDelay));
  });
  const shared = typeof SharedWorker === 'undefined' ? null : new SharedWorker('/live.js').port;
  if (shared) shared.onmessage = ({ data }) => happened(data);
  let stream = null, looking = false, looked = false;
  const listen = leaving => {
    const wanted = leaving !== true && !document.hidden && document.querySelector('[hx-trigger*="from:body"]') !== null;
    if (wanted === looking) return;
    looking = wanted;
    if (shared) {
      shared.postMessage(wanted);
    } else if (wanted) {
      stream = new EventSource('/live');
      for (const event of EVENTS) stream.addEventListener(event, () => happened(event));
    } else {
      stream.close();
    }
    if (wanted && looked) EVENTS.forEach(happened);
    looked = looked || wanted;
  };
  document.addEventListener('visibilitychange', () => listen());
  addEventListener('pagehide', () => listen(true));
  addEventListener('pageshow', () => listen());
  document.addEventListener('htmx:afterSettle', () => listen());
  listen();

  const keys = document.getElementById('keys');
  const places = { c: '/counter', n: '/now', f: '/floor', s: '/stores', l: '/ledger', h: '/handbook', m: '/members' };
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

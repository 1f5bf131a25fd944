// The stream of what goes on, one for all tabs of a browser, while any of them looks.
'use strict';
const EVENTS = ['worked', 'floor', 'machine', 'alarm'];
// What the server says first on a new stream, so that a page catches up with what happened while it came.
const FIRST = ['worked', 'machine', 'alarm'];
const looking = new Set();
let stream = null;

const follow = () => {
  if (stream && (looking.size === 0 || stream.readyState === EventSource.CLOSED)) {
    stream.close();
    stream = null;
  }
  if (looking.size > 0 && !stream) {
    stream = new EventSource('/live');
    for (const event of EVENTS) stream.addEventListener(event, () => looking.forEach(tab => tab.postMessage(event)));
  }
};

onconnect = ({ ports: [tab] }) => {
  tab.onmessage = ({ data: looks }) => {
    if (looks) looking.add(tab); else looking.delete(tab);
    const shared = stream;
    follow();
    if (looks && stream === shared) FIRST.forEach(event => tab.postMessage(event));
  };
};

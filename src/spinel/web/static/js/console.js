// A confirmation is kept on this device until the server has answered it: it survives a reload and a lost connection,
// is sent again with the same id, and blocks the next step until it is saved. Without this file the plain form works.
import { draw, phase, setPhase, tell } from "./phases.js";
import { box, drop, put, waiting } from "./pending.js";
import { typing } from "./typing.js";

let sending = false;
let timer = null;

function uuid() {
  if (window.crypto.randomUUID) { return window.crypto.randomUUID(); }
  const bytes = window.crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (x) => x.toString(16).padStart(2, "0")).join("");
}

function replace(html) {
  const holder = document.createElement("div");
  holder.innerHTML = html;
  const fresh = holder.querySelector("#console");
  if (!fresh) { return; }
  box().replaceWith(fresh);
  window.htmx.process(fresh);
  draw();
}

function again() {
  clearTimeout(timer);
  timer = setTimeout(send, 3000);
}

function answered(answer, html, step) {
  if (answer.headers.get("X-Console") === "yes") {
    drop();
    replace(html);
  } else if (answer.status === 403) {
    drop();
    tell("");
    location.reload();
  } else if (answer.status === 503) {
    // the database takes no entries just now: kept here, and sent again
    tell("noAnswer", step);
    again();
  } else {
    tell("signIn", step);
    again();
  }
}

async function send() {
  const kept = waiting();
  if (!kept || sending) { return; }
  clearTimeout(timer);
  draw();
  if (kept.person && kept.person !== document.body.dataset.person) {
    // it is somebody else's who has signed in here since: theirs to send, and not to be lost
    tell("notYours", kept.data.step);
    return;
  }
  sending = true;
  const token = document.querySelector('input[name="csrf_token"]');
  if (token) { kept.data.csrf_token = token.value; }
  const stop = new AbortController();
  const limit = setTimeout(() => stop.abort(), 10000);
  try {
    const body = new URLSearchParams(kept.data);
    const answer = await fetch(kept.url, { method: "POST", headers: { "X-Console": "yes" }, body, signal: stop.signal });
    const html = await answer.text();
    sending = false;
    answered(answer, html, kept.data.step);
  } catch {
    sending = false;
    tell("noAnswer", kept.data.step);
    again();
  } finally {
    clearTimeout(limit);
  }
}

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.id !== "confirm") { return; }
  event.preventDefault();
  event.stopImmediatePropagation();
  if (waiting()) { return; }
  if (phase() < 2) { setPhase(phase() + 1); return; }
  const data = Object.fromEntries(new FormData(form));
  data.request_id = uuid();
  put({ url: form.getAttribute("action"), data, person: document.body.dataset.person });
  send();
}, true);

document.addEventListener("click", (event) => {
  if (event.target.closest && event.target.closest("#again")) { setPhase(0); }
});

document.addEventListener("keydown", (event) => {
  if (typing(event)) { return; }
  const name = event.key.toLowerCase();
  if (name === "enter" && !/^(BUTTON|SUMMARY|A)$/.test(event.target.tagName)) {
    const main = document.getElementById("primary");
    if (main && !main.disabled) { event.preventDefault(); main.click(); }
  }
  const other = /^[a-z]$/.test(name) ? document.querySelector(`#console [data-key="${name}"]`) : null;
  if (!other) { return; }
  event.preventDefault();
  other.click();
  const field = other.parentElement.querySelector(".pop input, .pop textarea");
  if (field && other.parentElement.open) { field.focus(); }
});

document.body.addEventListener("wake", send);
document.addEventListener("htmx:afterSwap", () => draw());
document.addEventListener("htmx:beforeRequest", (event) => {
  // a confirmation under way answers with the console itself
  if (event.detail.elt.id === "pulse" && (waiting() || sending)) { event.preventDefault(); }
});
draw();
if (waiting()) { send(); }

// Nothing typed is lost, nothing is left for the next: a form marked data-keep is kept for one person, one form and what
// data-keep says (the version of its record, or what the person came for); gone once it was saved, gone at sign-out.
const who = document.body.dataset.person || "";

function keyOf(form) {
  return `keep:${who}:${form.getAttribute("action") || location.pathname}:${form.dataset.keep}`;
}

function forget(starts) {
  for (const key of Object.keys(sessionStorage)) {
    if (starts.some((start) => key.startsWith(start))) { sessionStorage.removeItem(key); }
  }
}

function forgetSaved() {
  const saved = document.body.dataset.saved;
  const sent = saved && sessionStorage.getItem(`sent:${saved}`);
  if (!sent) { return; }
  sessionStorage.removeItem(sent);
  sessionStorage.removeItem(`sent:${saved}`);
}

const ticked = (field) => field.type === "checkbox" || field.type === "radio";
const skipped = (field) => !field.name || field.type === "hidden" || field.type === "password";

function keep(form) {
  const data = [];
  Array.from(form.elements).forEach((field, i) => {
    if (!skipped(field)) { data.push([i, field.name, ticked(field) ? field.checked : field.value]); }
  });
  sessionStorage.setItem(keyOf(form), JSON.stringify(data));
}

function restore(form) {
  const kept = sessionStorage.getItem(keyOf(form));
  const asked = new URLSearchParams(location.search);
  if (!kept || form.querySelector(".refusal")) { return; }
  for (const [i, name, value] of JSON.parse(kept)) {
    const field = form.elements[i];
    // what the address asks for is what the person came for: nothing kept overrides it
    if (!field || field.name !== name || asked.has(name)) { continue; }
    if (ticked(field)) { field.checked = value; } else { field.value = value; }
    field.dispatchEvent(new Event(field.type === "select-one" ? "change" : "input"));
  }
  form.dataset.dirty = "yes";
}

function forgetOthers() {
  // a session that ended by itself has signed nobody out here: what was typed in it is nobody else's
  for (const key of Object.keys(sessionStorage)) {
    const others = who ? !key.startsWith(`keep:${who}:`) : "tablet" in document.body.dataset;
    if (key.startsWith("keep:") && others) { sessionStorage.removeItem(key); }
  }
}

forgetSaved();
forgetOthers();
for (const form of document.querySelectorAll("form[data-keep]")) {
  restore(form);
  form.addEventListener("input", () => { form.dataset.dirty = "yes"; keep(form); });
  form.addEventListener("submit", () => {
    form.dataset.dirty = "";
    const id = form.querySelector('input[name="request_id"]');
    if (id) { sessionStorage.setItem(`sent:${id.value}`, keyOf(form)); }
  });
}
for (const form of document.querySelectorAll('form[action$="/sign-out"]')) {
  form.addEventListener("submit", () => forget(["keep:", "sent:"]));
}
window.addEventListener("beforeunload", (event) => {
  if (document.querySelector('form[data-keep][data-dirty="yes"]')) { event.preventDefault(); }
});

// Three presses of the one large button: read out, repeated back, done. A reload keeps where one was.
import { box, waiting } from "./pending.js";

function phaseKey() { return `phase:${box().dataset.number}:${box().dataset.version}`; }

function words() { return JSON.parse(box().dataset.words); }

export function phase() { return Number(sessionStorage.getItem(phaseKey()) || 0); }

export function setPhase(n) {
  sessionStorage.setItem(phaseKey(), String(n));
  draw();
}

export function tell(what, step) {
  const flag = document.getElementById("pending");
  const saved = document.getElementById("saved");
  if (!flag) { return; }
  flag.hidden = !what;
  flag.textContent = what ? words()[what].replace("{}", step) : "";
  if (what && saved) { saved.classList.add("waiting"); saved.textContent = words().notSaved; }
}

function drawPhases(n) {
  for (const li of box().querySelectorAll("[data-phase]")) {
    const i = Number(li.dataset.phase);
    li.classList.toggle("on", i === n);
    li.classList.toggle("past", i < n);
  }
}

function drawTyped(form, n) {
  const typed = form.querySelector("[data-typed]");
  const fields = typed ? typed.querySelectorAll("input,select") : [];
  if (typed) { typed.hidden = n < 2; }
  for (const field of fields) { field.disabled = n < 2; }
  // while readings are typed what was read out steps back, so that fields and button are on one screen
  box().classList.toggle("typing", n === 2 && fields.length > 0);
  const first = n === 2 && typed ? typed.querySelector("input") : null;
  if (first && !first.value) { first.focus({ preventScroll: true }); }
}

export function draw() {
  const form = document.getElementById("confirm");
  const button = document.getElementById("primary");
  if (!form || !button) { return; }
  const n = phase();
  const small = button.querySelector("small");
  if (!small.dataset.final) { small.dataset.final = small.textContent; }
  const said = words();
  const final = [button.dataset.final, small.dataset.final];
  const shown = waiting() ? said.unsaved : [said.readOut, said.repeated, final][n];
  [button.querySelector("b").textContent, small.textContent] = shown;
  button.disabled = Boolean(waiting());
  drawPhases(n);
  drawTyped(form, n);
}

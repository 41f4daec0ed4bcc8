// Keys: / jumps, digits go to workspaces, ? lists them; letters press the button that bears them.
import { typing } from "./typing.js";

document.addEventListener("keydown", (event) => {
  if (typing(event)) { return; }
  const jump = document.getElementById("jump");
  const keys = document.getElementById("keys");
  if (event.key === "/" && jump) { event.preventDefault(); jump.focus(); }
  if (event.key === "?" && keys) { keys.showModal(); }
  // z and y: undo and redo where a draft is open
  const button = /^[a-z]$/.test(event.key) && document.querySelector(`button[data-key="${event.key}"]:not([disabled])`);
  if (button && !document.querySelector("dialog[open]")) { event.preventDefault(); button.click(); }
  const link = /^[0-9]$/.test(event.key) && document.querySelector(`.rail a[data-key="${event.key}"]`);
  if (link && !document.querySelector("dialog[open]")) { link.click(); }
});

// The one confirmation that this device still owes the server, if any.
export function box() { return document.getElementById("console"); }

function key() { return `confirm:${box().dataset.number}`; }

export function waiting() {
  try { return JSON.parse(localStorage.getItem(key()) || "null"); } catch { return null; }
}

export function put(confirmation) { localStorage.setItem(key(), JSON.stringify(confirmation)); }

export function drop() { localStorage.removeItem(key()); }

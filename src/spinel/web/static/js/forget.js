// Who signed in at a shared tablet with a short code is forgotten when nobody touches it: the server forgets them as
// well, this only shows it at once.
const short = Number(document.body.dataset.short || 0);
const leave = document.getElementById("somebody-else");

if (short && leave) {
  let last = Date.now();
  const touched = () => { last = Date.now(); };
  for (const kind of ["pointerdown", "keydown", "input"]) { document.addEventListener(kind, touched); }
  setInterval(() => { if (Date.now() - last > short * 1000) { leave.requestSubmit(); } }, 1000);
}

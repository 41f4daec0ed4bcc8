// A form is sent once; the server also knows a repeat by its request id.
document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.method !== "post") { return; }
  if (form.dataset.sent) { event.preventDefault(); return; }
  form.dataset.sent = "yes";
  setTimeout(() => { delete form.dataset.sent; }, 8000);
});
window.addEventListener("pageshow", () => {
  for (const form of document.querySelectorAll("form[data-sent]")) { delete form.dataset.sent; }
});

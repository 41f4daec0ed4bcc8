// A selected element keeps its brackets when its card arrives by htmx.
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id !== "card") { return; }
  document.querySelector(".network").classList.add("with-card");
  const link = event.detail.requestConfig.elt;
  if (!link.classList || !link.classList.contains("el")) { return; }
  for (const el of document.querySelectorAll(".el.sel")) { el.classList.remove("sel"); }
  link.classList.add("sel");
  document.dispatchEvent(new Event("card-opened"));
  event.detail.target.scrollTop = 0;
  if (window.innerWidth <= 1100) { event.detail.target.scrollIntoView(); }
});

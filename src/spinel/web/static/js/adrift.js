// A page says when it has lost its server, and asks at once when the tablet wakes or the network is back.
document.addEventListener("htmx:afterRequest", (event) => {
  if (event.detail.requestConfig.elt.id !== "strip") { return; }
  const flag = document.getElementById("adrift");
  const clock = document.querySelector("[data-clock]");
  if (event.detail.successful) {
    flag.hidden = true;
  } else if (flag.hidden) {
    flag.textContent = flag.dataset.says.replace("{}", clock ? clock.textContent : new Date().toLocaleTimeString());
    flag.hidden = false;
  }
});

function wake() {
  if (!document.hidden) { document.body.dispatchEvent(new Event("wake")); }
}
document.addEventListener("visibilitychange", wake);
window.addEventListener("online", wake);
window.addEventListener("offline", wake);

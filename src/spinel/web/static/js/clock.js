// Site time goes on while a page is open, written as the server wrote it: data-clock is a form of strftime.
const PARTS = new Map();

function parts(zone) {
  if (!PARTS.has(zone)) {
    PARTS.set(zone, new Intl.DateTimeFormat("en", {
      weekday: "short", day: "numeric", month: "short", year: "numeric",
      hour: "2-digit", minute: "2-digit", second: "2-digit", hour12: false, timeZone: zone,
    }));
  }
  return PARTS.get(zone);
}

function written(form, zone, moment) {
  const at = Object.fromEntries(parts(zone).formatToParts(moment).map((p) => [p.type, p.value]));
  const two = (text) => text.padStart(2, "0");
  const hour = at.hour === "24" ? "00" : at.hour;
  const values = {
    "%a": at.weekday, "%-d": at.day, "%d": two(at.day), "%b": at.month, "%Y": at.year,
    "%H": hour, "%M": at.minute, "%S": at.second,
  };
  return form.replace(/%-?[A-Za-z]/g, (sign) => values[sign] ?? sign);
}

function tick() {
  for (const el of document.querySelectorAll("[data-clock]")) {
    if (!el.dataset.started) {
      el.dataset.started = String(Date.now());
      el.dataset.base = String(Date.parse(el.getAttribute("datetime")));
      continue;
    }
    const now = new Date(Number(el.dataset.base) + Date.now() - Number(el.dataset.started));
    el.textContent = written(el.dataset.clock, el.dataset.zone, now);
  }
}

setInterval(tick, 1000);
tick();

// The grips of a curve: its whole range comes from the server with every answer and every curve as it would be drawn;
// dragging, or stepping with the arrow keys, only shows them. Letting go, or Enter, tries the setting.
const AGAIN_MS = 400;

export function grips() {
  return {
    held: false, failed: false, what: "", value: "", energy: "", who: "", lost: "",
    init() {
      this.known = new Map();
      this.plot = this.$root.querySelector("svg.grips");
      this.curve = this.plot.querySelector(".gripped");
      for (const grip of this.plot.querySelectorAll(".grip")) {
        for (const near of ["pointerenter", "focus"]) { grip.addEventListener(near, () => this.fetched(grip)); }
        grip.addEventListener("pointerdown", (e) => this.take(grip, e));
        grip.addEventListener("pointermove", (e) => { if (this.holds === grip) { this.drag(grip, e); } });
        grip.addEventListener("pointerup", () => this.letGo(grip));
        grip.addEventListener("pointercancel", () => this.putBack(grip));
        grip.addEventListener("keydown", (e) => this.key(grip, e));
        grip.addEventListener("blur", () => { if (this.holds !== grip) { this.putBack(grip); } });
      }
    },
    // Asked once a grip; asked again by itself while the server computes.
    fetched(grip) {
      if (!this.known.has(grip)) { this.known.set(grip, this.ask(grip)); }
      return this.known.get(grip);
    },
    async ask(grip) {
      try {
        for (;;) {
          const answer = await fetch(grip.dataset.ask, { headers: { Accept: "application/json" } });
          if (answer.status !== 202) {
            grip.points = (await answer.json()).points;
            return grip.points;
          }
          await new Promise((done) => { setTimeout(done, AGAIN_MS); });
        }
      } catch {
        // no connection, or signed out: asked again when it is next taken hold of
        this.known.delete(grip);
        this.failed = true;
        return null;
      }
    },
    take(grip, event) {
      event.preventDefault();
      grip.focus();
      grip.setPointerCapture(event.pointerId);
      this.holds = grip;
      this.says(grip);
      this.fetched(grip).then(() => { if (this.holds === grip && this.last) { this.drag(grip, this.last); } });
    },
    says(grip) {
      this.held = true;
      this.failed = false;
      this.what = grip.getAttribute("aria-label");
      if (!grip.points) { this.value = "…"; this.energy = "–"; this.who = this.$root.dataset.coming; this.lost = ""; }
    },
    drag(grip, event) {
      this.last = event;
      const { axis } = grip.dataset;
      const box = this.plot.getBoundingClientRect();
      const at = axis === "x" ? (event.clientX - box.left) * (this.plot.viewBox.baseVal.width / box.width)
        : (event.clientY - box.top) * (this.plot.viewBox.baseVal.height / box.height);
      if (!grip.points || !grip.points.length) { return; }
      this.show(grip, grip.points.reduce((best, p) => (Math.abs(p[axis] - at) < Math.abs(best[axis] - at) ? p : best)));
    },
    show(grip, point) {
      grip.at = point;
      grip.setAttribute("transform", `translate(${point.x} ${point.y})`);
      grip.setAttribute("aria-valuenow", point.value);
      this.curve.setAttribute("d", point.d);
      this.says(grip);
      this.value = String(point.value);
      // rounded up, as everywhere
      this.energy = point.energy === null ? "–" : (Math.ceil(point.energy * 10 - 1e-6) / 10).toFixed(1);
      this.who = point.energy === null ? point.why : `${point.device || "–"}, ${point.case}`;
      this.lost = point.lost.map((pair) => pair.join(" → ")).join(", ");
      grip.setAttribute("aria-valuetext", `${point.value}: ${this.energy} cal/cm² ${this.lost}`);
    },
    async key(grip, event) {
      const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
      if (event.key === "Escape") { this.putBack(grip); return; }
      if (event.key === "Enter") { this.letGo(grip); return; }
      if (!by) { return; }
      event.preventDefault();
      event.stopPropagation();
      this.says(grip);
      const points = await this.fetched(grip);
      if (!points || !points.length) { return; }
      const now = grip.at ? grip.at.value : Number(grip.getAttribute("aria-valuenow"));
      const near = points.reduce((best, p, i) => (Math.abs(p.value - now) < Math.abs(points[best].value - now) ? i : best), 0);
      this.show(grip, points[Math.min(Math.max(near + by, 0), points.length - 1)]);
    },
    letGo(grip) {
      this.holds = null;
      this.last = null;
      if (!grip.at) { this.putBack(grip); return; }
      const { page, change } = grip.dataset;
      window.location.assign(`${page}&c=${encodeURIComponent(change + grip.at.value)}`);
    },
    putBack(grip) {
      this.holds = null;
      this.last = null;
      grip.at = null;
      grip.setAttribute("transform", `translate(${grip.dataset.x} ${grip.dataset.y})`);
      this.curve.setAttribute("d", "");
      this.held = false;
    },
  };
}

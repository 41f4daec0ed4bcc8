// Pan and zoom of the one-line by its viewBox; nothing is redrawn.
import { typing } from "./typing.js";

const LEGIBLE = 0.92;

function middle(el) {
  const b = el.getBBox();
  return [b.x + b.width / 2, b.y + b.height / 2];
}

function nearest(from, those, [dx, dy]) {
  const [x, y] = middle(from);
  let best = null;
  let least = Infinity;
  for (const el of those) {
    if (el === from) { continue; }
    const [ex, ey] = middle(el);
    const ahead = (ex - x) * dx + (ey - y) * dy;
    const aside = Math.abs((ex - x) * dy) + Math.abs((ey - y) * dx);
    if (ahead > 2 && ahead + 2 * aside < least) { least = ahead + 2 * aside; best = el; }
  }
  return best;
}

export function oneline() {
  return {
    init() {
      const svg = this.$refs.sheet;
      this.w = Number(svg.dataset.width);
      this.h = Number(svg.dataset.height);
      this.fit();
      this.near();
      document.addEventListener("card-opened", () => this.near());
      this.drag(svg);
      svg.addEventListener("wheel", (e) => {
        e.preventDefault();
        this.scale(e.deltaY > 0 ? 1.15 : 1 / 1.15, e);
      }, { passive: false });
      this.along(svg);
      this.mapped();
      document.addEventListener("keydown", (e) => {
        if (typing(e)) { return; }
        if (e.key === "+") { this.into(); } else if (e.key === "-") { this.out(); } else if (e.key === "0") { this.fit(); }
      });
    },
    drag(svg) {
      let from = null;
      let moved = false;
      svg.addEventListener("pointerdown", (e) => { from = { x: e.clientX, y: e.clientY }; moved = false; });
      svg.addEventListener("pointermove", (e) => {
        if (!from) { return; }
        const dx = e.clientX - from.x;
        const dy = e.clientY - from.y;
        if (!moved && Math.abs(dx) + Math.abs(dy) < 6) { return; }
        if (!moved) { moved = true; svg.classList.add("drag"); svg.setPointerCapture(e.pointerId); }
        const k = this.v[2] / svg.clientWidth;
        this.v[0] -= dx * k;
        this.v[1] -= dy * k;
        from = { x: e.clientX, y: e.clientY };
        this.show();
      });
      const end = () => { from = null; svg.classList.remove("drag"); };
      svg.addEventListener("pointerup", end);
      svg.addEventListener("pointercancel", end);
      svg.addEventListener("click", (e) => {
        if (moved) { e.preventDefault(); e.stopPropagation(); moved = false; }
      }, true);
    },
    show() {
      this.$refs.sheet.setAttribute("viewBox", this.v.join(" "));
      const view = this.$refs.mapview;
      if (view) {
        // where everything is in sight the map would only cover some of it
        this.$refs.map.classList.toggle("whole", this.v[2] >= this.w && this.v[3] >= this.h);
        ["x", "y", "width", "height"].forEach((name, i) => view.setAttribute(name, this.v[i]));
      }
    },
    // A press on the small map brings that part into the middle.
    mapped() {
      const map = this.$refs.map;
      if (!map) { return; }
      map.addEventListener("pointerdown", (e) => {
        const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(map.getScreenCTM().inverse());
        this.v[0] = at.x - this.v[2] / 2;
        this.v[1] = at.y - this.v[3] / 2;
        this.show();
      });
    },
    // Arrow keys go along connections: to what is joined, in that direction, and else to the nearest there.
    along(svg) {
      const way = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] };
      svg.addEventListener("keydown", (e) => {
        const from = e.target.closest("a[data-id]");
        const to = way[e.key];
        if (!from || !to) { return; }
        e.preventDefault();
        const joined = (from.dataset.near || "").split(" ").map((id) => svg.querySelector(`a[data-id="${id}"]`));
        const next = nearest(from, joined.filter(Boolean), to) || nearest(from, [...svg.querySelectorAll("a[data-id]")], to);
        if (next) { next.focus(); this.bring(next); }
      });
    },
    bring(el) {
      const b = el.getBBox();
      const [x, y, w, h] = this.v;
      if (b.x < x || b.y < y || b.x + b.width > x + w || b.y + b.height > y + h) {
        this.v[0] = b.x + b.width / 2 - w / 2;
        this.v[1] = b.y + b.height / 2 - h / 2;
        this.show();
      }
    },
    scale(k, e) {
      const box = this.$refs.sheet.getBoundingClientRect();
      const fx = e ? (e.clientX - box.left) / box.width : 0.5;
      const fy = e ? (e.clientY - box.top) / box.height : 0.5;
      const w = Math.min(Math.max(this.v[2] * k, 240), this.w * 2);
      const h = w * this.v[3] / this.v[2];
      this.v = [this.v[0] + (this.v[2] - w) * fx, this.v[1] + (this.v[3] - h) * fy, w, h];
      this.show();
    },
    into() { this.scale(1 / 1.3); },
    out() { this.scale(1.3); },
    fit() { this.v = [0, 0, this.w, this.h]; this.show(); },
    // Beside an open card the whole would be too small to read: keep the text legible and the selection in view.
    near() {
      const svg = this.$refs.sheet;
      const sel = svg.querySelector(".el.sel .hit");
      if (!sel || !svg.clientWidth) { return; }
      if (Math.min(svg.clientWidth / this.w, svg.clientHeight / this.h) >= LEGIBLE) { return; }
      const w = svg.clientWidth / LEGIBLE;
      const h = svg.clientHeight / LEGIBLE;
      const x = Number(sel.getAttribute("x")) + Number(sel.getAttribute("width")) / 2;
      const y = Number(sel.getAttribute("y"));
      this.v = [
        Math.max(0, Math.min(x - w / 2, this.w - w)), Math.max(0, Math.min(y - h / 2, this.h - h)), w, h,
      ];
      this.show();
    },
  };
}

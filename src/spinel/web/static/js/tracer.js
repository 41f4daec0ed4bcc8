// Marks on a picture of a maker's sheet: two values on each axis, then points. The server turns them into a curve.
const KINDS = { clearing: "clearingPoints", melting: "meltingPoints" };

export function tracer() {
  return {
    next: "x1",
    clearingPoints: [],
    meltingPoints: [],
    get clearing() { return JSON.stringify(this.clearingPoints); },
    get melting() { return JSON.stringify(this.meltingPoints); },
    get told() { return `${this.clearingPoints.length} + ${this.meltingPoints.length}`; },
    place(event) {
      const box = this.$refs.picture.getBoundingClientRect();
      const x = Number(((event.clientX - box.left) / box.width).toFixed(5));
      const y = Number(((event.clientY - box.top) / box.height).toFixed(5));
      if (KINDS[this.next]) {
        this[KINDS[this.next]].push([x, y]);
      } else {
        this.$refs[this.next].value = this.next.startsWith("x") ? x : y;
        this.next = { x1: "x2", x2: "y1", y1: "y2", y2: "clearing" }[this.next];
      }
      this.draw();
    },
    rub() {
      const kind = KINDS[this.next] || "clearingPoints";
      this[kind].pop();
      this.draw();
    },
    draw() {
      const svg = this.$refs.marks;
      svg.setAttribute("viewBox", "0 0 1000 1000");
      svg.setAttribute("preserveAspectRatio", "none");
      svg.replaceChildren();
      const mark = (kind, x1, y1, x2, y2) => {
        const line = document.createElementNS("http://www.w3.org/2000/svg", "line");
        for (const [name, value] of Object.entries({ class: kind, x1, y1, x2, y2 })) { line.setAttribute(name, value); }
        svg.append(line);
      };
      for (const axis of ["x1", "x2"]) {
        const at = this.$refs[axis].value * 1000;
        if (at) { mark("axis", at, 0, at, 1000); }
      }
      for (const axis of ["y1", "y2"]) {
        const at = this.$refs[axis].value * 1000;
        if (at) { mark("axis", 0, at, 1000, at); }
      }
      for (const kind of ["clearingPoints", "meltingPoints"]) {
        for (const [x, y] of this[kind]) {
          mark(kind, x * 1000 - 8, y * 1000, x * 1000 + 8, y * 1000);
          mark(kind, x * 1000, y * 1000 - 8, x * 1000, y * 1000 + 8);
        }
      }
    },
  };
}

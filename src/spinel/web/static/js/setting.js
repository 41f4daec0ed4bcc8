// A setting's slider: the figures of its whole range came with it, computed on the server; dragging only shows them.
export function setting() {
  return {
    points: [], value: "", energy: "", who: "", lost: "",
    init() {
      this.points = JSON.parse(this.$root.dataset.points);
      const at = Number(this.$root.dataset.at);
      const near = (p) => Math.abs(Math.log(p.value / at));
      const slider = this.$root.querySelector("input[type=range]");
      slider.value = this.points.reduce((best, p, i) => (near(p) < near(this.points[best]) ? i : best), 0);
      this.show(slider);
    },
    show(slider) {
      const point = this.points[Number(slider.value)];
      this.value = String(point.value);
      // rounded up, as everywhere
      this.energy = point.energy === null ? "–" : (Math.ceil(point.energy * 10 - 1e-6) / 10).toFixed(1);
      this.who = point.energy === null ? point.why : `${point.device || "–"}, ${point.case}`;
      this.lost = point.lost.map((pair) => pair.join(" → ")).join(", ");
      slider.setAttribute("aria-valuetext", `${this.value}: ${this.energy} cal/cm²`);
    },
    move(event) { this.show(event.currentTarget); },
    go(event) {
      const { page, change } = this.$root.dataset;
      const point = this.points[Number(event.currentTarget.value)];
      window.location.assign(`${page}&c=${encodeURIComponent(change + point.value)}`);
    },
  };
}

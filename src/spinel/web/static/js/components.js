// What Alpine makes of x-data on a page.
import { grips } from "./grips.js";
import { oneline } from "./oneline.js";
import { setting } from "./setting.js";
import { tracer } from "./tracer.js";
import { walk } from "./walk.js";

document.addEventListener("alpine:init", () => {
  const { Alpine } = window;
  Alpine.data("grips", grips);
  Alpine.data("oneline", oneline);
  Alpine.data("setting", setting);
  Alpine.data("tracer", tracer);
  Alpine.data("walk", walk);
  Alpine.data("jump", () => ({
    close() {
      document.getElementById("hits").replaceChildren();
      this.$el.querySelector("input").blur();
    },
  }));
  // The keys of a shared tablet write into the field, which a keyboard does as well.
  Alpine.data("codepad", () => ({
    press(event) {
      const field = this.$refs.code;
      if (field.value.length < field.maxLength) { field.value += event.currentTarget.value; }
    },
    rub() { this.$refs.code.value = this.$refs.code.value.slice(0, -1); },
  }));
  // What belongs to one of several kinds; the select may have been restored before this runs.
  Alpine.data("choice", () => ({
    chosen: "",
    init() { this.chosen = this.$root.querySelector("select").value; },
  }));
  // The questions of the justification that is claimed; the select may have been restored before this runs.
  Alpine.data("claim", () => ({
    claim: "",
    init() { this.claim = this.$root.querySelector("select").value; },
  }));
});

// Small behaviour only: the server renders every page, and every page works without this file.
(function () {
  "use strict";

  // Site time in the title block.
  function tick() {
    document.querySelectorAll("[data-clock]").forEach(function (el) {
      var zone = el.dataset.zone, started = Number(el.dataset.started || 0);
      if (!started) { el.dataset.started = String(Date.now()); el.dataset.base = String(Date.parse(el.getAttribute("datetime"))); return; }
      var now = new Date(Number(el.dataset.base) + Date.now() - started);
      if (el.dataset.clock === "time") { el.textContent = new Intl.DateTimeFormat("en-GB", {hour: "2-digit", minute: "2-digit", second: "2-digit", hour12: false, timeZone: zone}).format(now); return; }
      el.textContent = new Intl.DateTimeFormat("en-GB", {weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", second: "2-digit", hour12: false, timeZone: zone}).format(now).replace(/,/g, "");
    });
  }
  setInterval(tick, 1000); tick();

  // Nothing typed is lost, nothing is left for the next: a form marked data-keep is kept for one person, one form and what
  // data-keep says (the version of its record, or what the person came for); gone once it was saved, gone at sign-out.
  var who = document.body.dataset.person || "";
  function keyOf(form) { return "keep:" + who + ":" + (form.getAttribute("action") || location.pathname) + ":" + form.dataset.keep; }
  function forget(starts) {
    Object.keys(sessionStorage).forEach(function (k) { if (starts.some(function (s) { return k.indexOf(s) === 0; })) { sessionStorage.removeItem(k); } });
  }
  var saved = document.body.dataset.saved;
  if (saved && sessionStorage.getItem("sent:" + saved)) {
    sessionStorage.removeItem(sessionStorage.getItem("sent:" + saved));
    sessionStorage.removeItem("sent:" + saved);
  }
  function skip(field) { return !field.name || field.type === "hidden" || field.type === "password"; }
  function keep(form) {
    var data = [];
    Array.prototype.forEach.call(form.elements, function (f, i) {
      if (!skip(f)) { data.push([i, f.name, f.type === "checkbox" || f.type === "radio" ? f.checked : f.value]); }
    });
    sessionStorage.setItem(keyOf(form), JSON.stringify(data));
  }
  function restore(form) {
    var saved = sessionStorage.getItem(keyOf(form)), asked = new URLSearchParams(location.search);
    if (!saved || form.querySelector(".refusal")) { return; }
    JSON.parse(saved).forEach(function (entry) {
      var f = form.elements[entry[0]];
      // what the address asks for is what the person came for: nothing kept overrides it
      if (!f || f.name !== entry[1] || asked.has(f.name)) { return; }
      if (f.type === "checkbox" || f.type === "radio") { f.checked = entry[2]; } else { f.value = entry[2]; }
      f.dispatchEvent(new Event(f.type === "select-one" ? "change" : "input"));
    });
    form.dataset.dirty = "yes";
  }
  document.querySelectorAll("form[data-keep]").forEach(function (form) {
    restore(form);
    form.addEventListener("input", function () { form.dataset.dirty = "yes"; keep(form); });
    form.addEventListener("submit", function () {
      form.dataset.dirty = "";
      var id = form.querySelector('input[name="request_id"]');
      if (id) { sessionStorage.setItem("sent:" + id.value, keyOf(form)); }
    });
  });
  document.querySelectorAll('form[action$="/sign-out"]').forEach(function (form) {
    form.addEventListener("submit", function () { forget(["keep:", "sent:"]); });
  });
  window.addEventListener("beforeunload", function (event) {
    if (document.querySelector('form[data-keep][data-dirty="yes"]')) { event.preventDefault(); }
  });
  // A form is sent once; the server also knows a repeat by its request id.
  document.addEventListener("submit", function (event) {
    var form = event.target;
    if (form.method !== "post") { return; }
    if (form.dataset.sent) { event.preventDefault(); return; }
    form.dataset.sent = "yes";
    setTimeout(function () { delete form.dataset.sent; }, 8000);
  });
  window.addEventListener("pageshow", function () {
    document.querySelectorAll("form[data-sent]").forEach(function (form) { delete form.dataset.sent; });
  });

  // A page says when it has lost its server, and asks at once when the tablet wakes or the network is back.
  document.addEventListener("htmx:afterRequest", function (event) {
    if (event.detail.requestConfig.elt.id !== "strip") { return; }
    var flag = document.getElementById("adrift"), clock = document.querySelector("[data-clock]");
    if (event.detail.successful) { flag.hidden = true; }
    else if (flag.hidden) {
      flag.textContent = flag.dataset.says.replace("{}", clock ? clock.textContent : new Date().toLocaleTimeString());
      flag.hidden = false;
    }
  });
  function wake() { if (!document.hidden) { document.body.dispatchEvent(new Event("wake")); } }
  document.addEventListener("visibilitychange", wake);
  window.addEventListener("online", wake); window.addEventListener("offline", wake);

  // Keys: / jumps, digits go to workspaces, ? lists them.
  document.addEventListener("keydown", function (event) {
    var t = event.target;
    if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName)) { return; }
    if (event.key === "/") { var jump = document.getElementById("jump"); if (jump) { event.preventDefault(); jump.focus(); } }
    if (event.key === "?") { var keys = document.getElementById("keys"); if (keys) { keys.showModal(); } }
    var link = document.querySelector('.rail a[data-key="' + (/^[0-9]$/.test(event.key) ? event.key : "none") + '"]');
    if (link && !document.querySelector("dialog[open]")) { link.click(); }
  });

  // A selected element keeps its brackets when its card arrives by htmx.
  document.addEventListener("htmx:afterSwap", function (event) {
    if (event.detail.target.id !== "card") { return; }
    document.querySelector(".network").classList.add("with-card");
    var link = event.detail.requestConfig.elt;
    if (link.classList && link.classList.contains("el")) {
      document.querySelectorAll(".el.sel").forEach(function (el) { el.classList.remove("sel"); });
      link.classList.add("sel");
      document.dispatchEvent(new Event("card-opened"));
      event.detail.target.scrollTop = 0;
      if (window.innerWidth <= 1100) { event.detail.target.scrollIntoView(); }
    }
  });

  document.addEventListener("alpine:init", function () {
    window.Alpine.data("jump", function () {
      return { close: function () { document.getElementById("hits").replaceChildren(); this.$el.querySelector("input").blur(); } };
    });

    // The questions of the justification that is claimed; the select may have been restored before this runs.
    window.Alpine.data("claim", function () {
      return { claim: "", init: function () { this.claim = this.$root.querySelector("select").value; } };
    });

    // Pan and zoom of the one-line by its viewBox; nothing is redrawn.
    window.Alpine.data("oneline", function () {
      return {
        init: function () {
          var svg = this.$refs.sheet, self = this;
          this.w = Number(svg.dataset.width); this.h = Number(svg.dataset.height);
          this.fit();
          this.near();
          document.addEventListener("card-opened", function () { self.near(); });
          var from = null, moved = false;
          svg.addEventListener("wheel", function (e) { e.preventDefault(); self.scale(e.deltaY > 0 ? 1.15 : 1 / 1.15, e); }, {passive: false});
          svg.addEventListener("pointerdown", function (e) { from = {x: e.clientX, y: e.clientY}; moved = false; });
          svg.addEventListener("pointermove", function (e) {
            if (!from) { return; }
            var dx = e.clientX - from.x, dy = e.clientY - from.y;
            if (!moved && Math.abs(dx) + Math.abs(dy) < 6) { return; }
            if (!moved) { moved = true; svg.classList.add("drag"); svg.setPointerCapture(e.pointerId); }
            var k = self.v[2] / svg.clientWidth;
            self.v[0] -= dx * k; self.v[1] -= dy * k; from = {x: e.clientX, y: e.clientY}; self.show();
          });
          var end = function () { from = null; svg.classList.remove("drag"); };
          svg.addEventListener("pointerup", end); svg.addEventListener("pointercancel", end);
          svg.addEventListener("click", function (e) { if (moved) { e.preventDefault(); e.stopPropagation(); moved = false; } }, true);
          document.addEventListener("keydown", function (e) {
            if (/^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName)) { return; }
            if (e.key === "+") { self.into(); } else if (e.key === "-") { self.out(); } else if (e.key === "0") { self.fit(); }
          });
        },
        show: function () { this.$refs.sheet.setAttribute("viewBox", this.v.join(" ")); },
        scale: function (k, e) {
          var svg = this.$refs.sheet, box = svg.getBoundingClientRect();
          var fx = e ? (e.clientX - box.left) / box.width : 0.5, fy = e ? (e.clientY - box.top) / box.height : 0.5;
          var w = Math.min(Math.max(this.v[2] * k, 240), this.w * 2), h = w * this.v[3] / this.v[2];
          this.v = [this.v[0] + (this.v[2] - w) * fx, this.v[1] + (this.v[3] - h) * fy, w, h]; this.show();
        },
        into: function () { this.scale(1 / 1.3); },
        out: function () { this.scale(1.3); },
        fit: function () { this.v = [0, 0, this.w, this.h]; this.show(); },
        // Beside an open card the whole would be too small to read: keep the text legible and the selection in view.
        near: function () {
          var svg = this.$refs.sheet, sel = svg.querySelector(".el.sel .hit");
          if (!sel || !svg.clientWidth) { return; }
          var k = Math.min(svg.clientWidth / this.w, svg.clientHeight / this.h), least = 0.92;
          if (k >= least) { return; }
          var w = svg.clientWidth / least, h = svg.clientHeight / least;
          var x = Number(sel.getAttribute("x")) + Number(sel.getAttribute("width")) / 2, y = Number(sel.getAttribute("y"));
          this.v = [Math.max(0, Math.min(x - w / 2, this.w - w)), Math.max(0, Math.min(y - h / 2, this.h - h)), w, h]; this.show();
        }
      };
    });
  });
})();

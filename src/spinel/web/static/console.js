// A confirmation is kept on this device until the server has answered it: it survives a reload and a lost connection,
// is sent again with the same id, and blocks the next step until it is saved. Without this file the plain form works.
(function () {
  "use strict";
  var sending = false, timer = null;

  function box() { return document.getElementById("console"); }
  function key() { return "confirm:" + box().dataset.number; }
  function waiting() { try { return JSON.parse(localStorage.getItem(key()) || "null"); } catch (e) { return null; } }
  function uuid() {
    if (window.crypto.randomUUID) { return window.crypto.randomUUID(); }
    var b = window.crypto.getRandomValues(new Uint8Array(16));
    return Array.prototype.map.call(b, function (x) { return ("0" + x.toString(16)).slice(-2); }).join("");
  }

  // Three presses of the one large button: read out, repeated back, done. A reload keeps where one was.
  function phaseKey() { return "phase:" + box().dataset.number + ":" + box().dataset.version; }
  function phase() { return Number(sessionStorage.getItem(phaseKey()) || 0); }
  function setPhase(n) { sessionStorage.setItem(phaseKey(), String(n)); draw(); }
  function draw() {
    var form = document.getElementById("confirm"), button = document.getElementById("primary");
    if (!form || !button) { return; }
    var n = phase(), kept = waiting();
    box().querySelectorAll("[data-phase]").forEach(function (li) {
      var i = Number(li.dataset.phase);
      li.classList.toggle("on", i === n); li.classList.toggle("past", i < n);
    });
    var typed = form.querySelector("[data-typed]");
    if (typed) { typed.hidden = n < 2; typed.querySelectorAll("input,select").forEach(function (f) { f.disabled = n < 2; }); }
    // while readings are typed what was read out steps back, so that fields and button are on one screen
    box().classList.toggle("typing", n === 2 && Boolean(typed && typed.querySelector("input,select")));
    var words = [["I have read it out", "word for word, from the location"], ["It was repeated back, word for word", "now it is done"]][n];
    button.querySelector("b").textContent = words ? words[0] : button.dataset.final;
    var small = button.querySelector("small");
    if (!small.dataset.final) { small.dataset.final = small.textContent; }
    small.textContent = words ? words[1] : small.dataset.final;
    button.disabled = Boolean(kept);
    if (kept) { button.querySelector("b").textContent = "Not saved yet"; small.textContent = "it is sent again until it is"; }
    if (n === 2 && typed) { var first = typed.querySelector("input"); if (first && !first.value) { first.focus({preventScroll: true}); } }
  }

  function tell(text) {
    var flag = document.getElementById("pending"), saved = document.getElementById("saved");
    if (!flag) { return; }
    flag.hidden = !text; flag.textContent = text || "";
    if (text && saved) { saved.classList.add("waiting"); saved.textContent = "Not saved"; }
  }

  function replace(html) {
    var holder = document.createElement("div");
    holder.innerHTML = html;
    var fresh = holder.querySelector("#console");
    if (!fresh) { return; }
    box().replaceWith(fresh);
    window.htmx.process(fresh);
    draw();
  }

  function again() { clearTimeout(timer); timer = setTimeout(send, 3000); }

  function send() {
    var kept = waiting();
    if (!kept || sending) { return; }
    sending = true; clearTimeout(timer);
    var stop = new AbortController(), limit = setTimeout(function () { stop.abort(); }, 10000);
    var form = document.getElementById("confirm"), token = document.querySelector('input[name="csrf_token"]');
    kept.data.csrf_token = token ? token.value : kept.data.csrf_token;
    fetch(kept.url, {method: "POST", headers: {"X-Console": "yes"}, body: new URLSearchParams(kept.data), signal: stop.signal})
      .then(function (answer) {
        return answer.text().then(function (html) { return {answer: answer, html: html}; });
      })
      .then(function (got) {
        sending = false; clearTimeout(limit);
        if (got.answer.headers.get("X-Console") !== "yes") {
          if (got.answer.status === 403) { localStorage.removeItem(key()); tell(""); location.reload(); return; }
          tell("Step " + kept.data.step + " is not saved: the server wants you to sign in again, in another tab. It is kept here and sent again.");
          again(); return;
        }
        localStorage.removeItem(key());
        replace(got.html);
      })
      .catch(function () {
        sending = false; clearTimeout(limit);
        tell("Step " + kept.data.step + " is not saved: no answer from Spinel. It is kept on this device and sent again every 3 seconds. Do not go on to the next step.");
        again();
      });
    if (form) { draw(); }
  }

  document.addEventListener("submit", function (event) {
    var form = event.target;
    if (form.id !== "confirm") { return; }
    event.preventDefault();
    event.stopImmediatePropagation();
    if (waiting()) { return; }
    if (phase() < 2) { setPhase(phase() + 1); return; }
    var data = {};
    new FormData(form).forEach(function (value, name) { data[name] = value; });
    data.request_id = uuid();
    localStorage.setItem(key(), JSON.stringify({url: form.getAttribute("action"), data: data}));
    send();
  }, true);

  document.addEventListener("click", function (event) {
    if (event.target.closest && event.target.closest("#again")) { setPhase(0); }
  });

  document.addEventListener("keydown", function (event) {
    if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)) { return; }
    var name = event.key.toLowerCase();
    if (name === "enter" && event.target.tagName !== "BUTTON" && event.target.tagName !== "SUMMARY" && event.target.tagName !== "A") {
      var main = document.getElementById("primary");
      if (main && !main.disabled) { event.preventDefault(); main.click(); }
    }
    var other = /^[a-z]$/.test(name) ? document.querySelector('#console [data-key="' + name + '"]') : null;
    if (other) {
      event.preventDefault(); other.click();
      var field = other.parentElement.querySelector(".pop input, .pop textarea");
      if (field && other.parentElement.open) { field.focus(); }
    }
  });

  document.body.addEventListener("wake", send);
  document.addEventListener("htmx:afterSwap", function () { draw(); });
  document.addEventListener("htmx:beforeRequest", function (event) {
    // a confirmation under way answers with the console itself
    if (event.detail.elt.id === "pulse" && (waiting() || sending)) { event.preventDefault(); }
  });
  draw();
  if (waiting()) { send(); }
})();

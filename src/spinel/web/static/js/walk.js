// A walk-down goes on while the network is away: each answer is kept on the device under its own request, and sent in
// order until the server has it. The same request sent twice is recorded once.
const STORE = "answers";
// Of one answer: the server has answered for good; it has not yet; nobody answers at all, or somebody must sign in first.
const [SENT, WAITS, OFF] = ["sent", "waits", "off"];

function opened() {
  return new Promise((resolve, reject) => {
    const asked = indexedDB.open("spinel-walk", 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(STORE, { keyPath: "request_id" });
    asked.onsuccess = () => resolve(asked.result);
    asked.onerror = () => reject(asked.error);
  });
}

async function inStore(mode, use) {
  const db = await opened();
  return new Promise((resolve, reject) => {
    const t = db.transaction(STORE, mode);
    const asked = use(t.objectStore(STORE));
    t.oncomplete = () => { db.close(); resolve(asked.result); };
    t.onerror = () => reject(t.error);
  });
}

const put = (answer) => inStore("readwrite", (s) => s.put(answer));
const gone = (id) => inStore("readwrite", (s) => s.delete(id));
const all = () => inStore("readonly", (s) => s.getAll());

async function smaller(file) {
  const whole = await createImageBitmap(file);
  const scale = Math.min(1, 1600 / Math.max(whole.width, whole.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(whole.width * scale);
  canvas.height = Math.round(whole.height * scale);
  canvas.getContext("2d").drawImage(whole, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.8);
}

function say(form, kind, words) {
  for (const name of ["wrong", "done"]) {
    const line = form.querySelector(`.${name}`);
    line.hidden = name !== kind || !words;
    if (name === kind) { line.textContent = words; }
  }
}

export function walk() {
  return {
    told: "",
    sending: false,
    mustSignIn: false,
    async init() {
      await this.count();
      this.send();
      window.addEventListener("online", () => this.send());
      document.addEventListener("visibilitychange", () => { if (!document.hidden) { this.send(); } });
      setInterval(() => this.send(), 15000);
    },
    mine(answers) { return answers.filter((a) => a.person === this.$root.dataset.person); },
    async waiting() {
      return this.mine(await all()).filter((a) => !a.refused).sort((a, b) => a.at - b.at);
    },
    async count() {
      const left = (await this.waiting()).length;
      const said = this.$root.dataset;
      this.told = left && this.mustSignIn ? said.signin : (left ? said.kept : said.sent).replace("{}", left);
      await this.listRefused();
    },
    // What the server did not take stays here with its reason until somebody has read it: its form may be long gone.
    async listRefused() {
      const list = this.$root.querySelector(".walk-refused");
      list.replaceChildren(...this.mine(await all()).filter((a) => a.refused).map((answer) => {
        const line = document.createElement("li");
        const [tag, done] = [document.createElement("b"), document.createElement("button")];
        tag.className = "tag";
        tag.textContent = answer.tag;
        done.className = "btn";
        done.type = "button";
        done.textContent = this.$root.dataset.read;
        done.addEventListener("click", async () => { await gone(answer.request_id); await this.count(); });
        line.append(tag, ` ${answer.refused} `, done);
        return line;
      }));
    },
    // First the eye, then the record: what was recorded shows once somebody has answered.
    async answered(event) {
      const form = event.target.form;
      const line = form.querySelector(".recorded");
      line.textContent = form.dataset.recorded;
      line.hidden = !event.target.value;
      if (!event.target.value) { return; }
      try {
        const answer = await fetch(`${form.dataset.would}?position=${encodeURIComponent(event.target.value)}`);
        const found = await answer.json();
        form.classList.toggle("otherwise", Boolean(found.otherwise));
      } catch { form.classList.remove("otherwise"); }
    },
    async picture(event) {
      const file = event.target.files[0];
      event.target.form.elements.picture.value = file ? await smaller(file) : "";
    },
    async keep(event) {
      const form = event.target;
      const answer = {
        request_id: crypto.randomUUID(), person: this.$root.dataset.person, to: form.action,
        at: Date.now(), since: performance.now(), page: performance.timeOrigin, fields: [...new FormData(form).entries()].filter(([, v]) => typeof v === "string"),
        stand: form.closest(".stand").id, tag: form.querySelector(".tag").textContent,
      };
      await put(answer);
      form.classList.add("kept");
      await this.count();
      say(form, "done", this.told);
      this.send();
    },
    async send() {
      if (this.sending) { return; }
      this.sending = true;
      this.mustSignIn = false;
      try {
        const stuck = new Set();
        for (const answer of await this.waiting()) {
          // what was seen of one piece is sent in its order; one that cannot go keeps no other back
          if (stuck.has(answer.stand)) { continue; }
          const sent = await this.sent(answer);
          if (sent === OFF) { break; }
          if (sent === WAITS) { stuck.add(answer.stand); }
        }
      } finally {
        this.sending = false;
        await this.count();
      }
    },
    async sent(answer) {
      const data = new FormData();
      for (const [name, value] of answer.fields) { data.append(name, value); }
      data.append("request_id", answer.request_id);
      // how long ago it was seen: by a clock that nobody sets as long as this page was open, else by the device's own
      const here = answer.page === performance.timeOrigin;
      const age = Math.max((Date.now() - answer.at) / 1000, here ? (performance.now() - answer.since) / 1000 : 0);
      if (age >= 0) { data.append("age_s", String(Math.ceil(age))); }
      if (here) { data.append("sure", "1"); }
      let got;
      try {
        got = await fetch(answer.to, {
          method: "POST", body: data, redirect: "manual", headers: { "X-CSRFToken": this.$root.dataset.token },
        });
      } catch { return OFF; }
      const form = document.querySelector(`#${CSS.escape(answer.stand)} form`);
      if (got.type === "opaqueredirect" || got.status === 401 || got.status === 400) {
        this.mustSignIn = true;
        return OFF;
      }
      // only what the server recorded leaves the device; what it will never take is kept with its reason
      if (got.status === 404) { return this.refuse(answer, form, this.$root.dataset.unknown); }
      const json = (got.headers.get("Content-Type") || "").includes("json");
      if (!json || (got.status !== 200 && got.status !== 422)) { return WAITS; }
      const said = await got.json();
      if (!said.kept) { return this.refuse(answer, form, said.says); }
      await gone(answer.request_id);
      if (form) {
        const stopped = said.stopped.length ? this.$root.dataset.stopped.replace("{}", said.stopped.join(", ")) : "";
        form.classList.remove("kept");
        say(form, "done", `✓ ${stopped}`);
        form.classList.add("sent");
      }
      return SENT;
    },
    async refuse(answer, form, why) {
      await put({ ...answer, refused: why });
      if (form) {
        form.classList.remove("kept");
        say(form, "wrong", why);
      }
      return SENT;
    },
  };
}

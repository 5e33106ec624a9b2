// Instruments that say themselves what they show, and what others write to the same job, as it happens. A reading by hand goes
// on as ever: what an instrument shows is taken only where the field is empty.
(() => {
  const AUTO = "uranograph-when-still";
  // A hand moves on by more than this before the next reading is taken by stillness, in the instrument's own unit.
  const MOVED = { angle: 3, length: 0.05, temperature: 5, torque: 2 };
  const NEXT_MS = 150;
  let source = null;
  let instruments = [];
  let armed = {};
  let rested = {};
  let tone = null;
  let newest = 0;

  const place = () => document.getElementById("live");
  const form = () => document.querySelector("form.reading-form");
  const field = () => form() && form().querySelector("input[data-reading]");
  const escape = (text) => Object.assign(document.createElement("i"), { textContent: text }).innerHTML;

  // What the waiting field takes: an angle with its side, a length, a temperature or a torque.
  const taken = () => {
    const kind = field() && field().dataset.takes;
    return kind ? instruments.find((each) => each.kind === kind && each.state === "live" && each.text !== "") : undefined;
  };

  // A lift is read together with its angle.
  const withIt = () => (field().name === "second" ? instruments.find((each) => each.kind === "angle" && each.state === "live" && each.text !== "") : null);

  const show = () => {
    const head = place();
    if (!head) return;
    for (const each of instruments) {
      const cell = document.querySelector(`[data-shows="${CSS.escape(each.name)}"]`);
      if (cell) cell.textContent = each.value === null ? each.words : `${each.value.toFixed(each.kind === "length" ? 3 : 1)} ${each.kind === "length" ? "mm" : each.unit}`;
    }
    head.innerHTML = instruments
      .map((each) => `<span class="live-one is-${each.state}" data-live="${escape(each.name)}"><b>${escape(each.name)}</b> ${
        each.state === "live" ? `${escape(each.text)}${each.side ? ` ${each.side.toUpperCase()}` : ` ${escape(each.unit)}`}` : escape(each.words)}</span>`)
      .join(" ");
    const now = taken();
    const line = document.getElementById("live-field");
    if (line) line.hidden = !now;
    if (!now || !line) return;
    const at = withIt();
    const reads = [at, now].filter(Boolean).map((each) => `${each.name} reads ${each.text} ${each.side ? each.side.toUpperCase() : each.unit}`);
    line.querySelector("[data-live-words]").textContent = `${reads.join(", ")}${now.still ? ", still" : ""}. Enter takes ${at ? "both" : "it"}.${now.note ? ` ${now.name}: ${now.note}.` : ""}`;
    const auto = line.querySelector("[data-live-auto]");
    const on = sessionStorage.getItem(AUTO) === "1";
    auto.hidden = !field().dataset.still;
    auto.setAttribute("aria-pressed", on ? "true" : "false");
    auto.textContent = on ? "Records when still" : "Record when still";
  };

  // What the instrument shows goes into the empty field, with its side; a lift is read together with its angle.
  const fill = (now, byItself = false) => {
    const own = form();
    const angle = withIt();
    field().value = now.text;
    if (angle) own.elements.text.value = angle.text;
    const side = (angle ?? now).side;
    const chosen = side ? own.querySelector(`input[name=side][value=${side}], select[name=side]`) : null;
    if (chosen?.matches("select")) chosen.value = side;
    else if (chosen) chosen.checked = true;
    for (const [name, value] of [["instrument", [angle?.name, now.name].filter(Boolean).join(", ")], ["raw", now.raw], ["by_itself", byItself ? "1" : ""]]) {
      let hidden = own.querySelector(`input[name=${name}]`);
      if (!hidden) {
        hidden = Object.assign(document.createElement("input"), { type: "hidden", name });
        own.append(hidden);
      }
      hidden.value = value;
    }
  };

  const typedByHand = () => form()?.querySelectorAll("input[name=instrument], input[name=raw], input[name=by_itself]").forEach((each) => each.remove());

  const beep = () => {
    try {
      tone ??= new AudioContext();
      const sound = tone.createOscillator();
      const loud = tone.createGain();
      loud.gain.value = 0.08;
      sound.frequency.value = 880;
      sound.connect(loud).connect(tone.destination);
      sound.start();
      sound.stop(tone.currentTime + 0.07);
    } catch {
      tone = null;
    }
  };

  document.addEventListener("uranograph:tone", beep);

  // Where rest alone says that this is the place to be read: at the stop, or where the dial shows what is asked for.
  const restsThere = () => {
    const how = field().dataset.still;
    if (how !== "dial") return how === "yes";
    const dial = instruments.find((each) => each.kind === "length" && each.state === "live" && each.still);
    const asked = Number.parseFloat(form().elements.second?.value.replace(",", "."));
    return Boolean(dial) && Math.abs(Math.abs(Number.parseFloat(dial.text)) - asked) <= (dial.unit === "inch" ? 0.001 : 0.02);
  };

  const whenStill = () => {
    const now = taken();
    if (!now || sessionStorage.getItem(AUTO) !== "1" || document.querySelector("dialog[open]")) return;
    const from = rested[now.name];
    if (from === undefined) rested[now.name] = now.value;
    const turn = now.kind === "angle" ? ((now.value - (from ?? now.value) + 540) % 360) - 180 : now.value - (from ?? now.value);
    if (Math.abs(turn) > MOVED[now.kind]) armed[now.name] = true;
    if (!now.still || !restsThere() || !armed[now.name] || field().value !== "" || form().dataset.sent) return;
    armed[now.name] = false;
    rested[now.name] = now.value;
    fill(now, true);
    beep();
    form().dataset.sent = "1";
    form().requestSubmit(form().querySelector("button[type=submit]"));
  };

  // What was rocked is one reading of its dial, taken as if it stood there.
  document.addEventListener("uranograph:taken", (event) => {
    if (!field() || field().value !== "" || form().dataset.sent) return;
    fill({ ...event.detail, side: "" }, true);
    beep();
    form().dataset.sent = "1";
    form().requestSubmit(form().querySelector("button[type=submit]"));
  });

  const others = (here) => {
    const line = document.getElementById("here");
    if (!line) return;
    const own = line.dataset.by;
    line.textContent = here.filter((each) => each.by !== own).map((each) => `${each.by} at ${each.at}${each.holds ? ", reading" : ""}`).join(" · ");
    const slot = form()?.elements.slot?.value;
    const held = slot && here.find((each) => each.holds === slot && each.by !== own);
    const warned = document.getElementById("read-by-other");
    if (warned) {
      warned.hidden = !held;
      warned.textContent = held ? `${held.by} is reading this one.` : "";
    }
  };

  // What somebody else wrote is drawn at once, one drawing after the other; while something is sent, or stands typed, the
  // question stays in the hand.
  let drawing = false;
  let later = null;
  const sending = () => window.uranographOutbox.busy() || document.querySelector(".htmx-request") || form()?.dataset.sent;
  const seen = () => Math.max(newest, Number(form()?.elements.seen?.value ?? 0), Number(document.getElementById("bench")?.dataset.seq ?? 0));

  const written = async (told) => {
    if (told.seq <= seen()) return;
    if (drawing || sending()) {
      if (!later) setTimeout(again, NEXT_MS);
      later = told;
      return;
    }
    drawing = true;
    try {
      await drawnAnew(told);
    } catch {
      // The server is away: the line comes back, and tells it again.
    } finally {
      drawing = false;
    }
  };

  // Whether anything stands typed or chosen on the bench that is not recorded yet.
  const inUse = () => {
    const fields = [...document.querySelectorAll("#bench input:not([type=hidden], [type=range]), #bench textarea, #bench select")];
    if (document.activeElement?.closest("#bench form:not(.reading-form)")) return true;
    return fields.some((each) => {
      if (each.matches("[type=radio], [type=checkbox]")) return each.checked !== each.defaultChecked;
      if (each.matches("select")) return [...each.options].some((option) => option.selected !== option.defaultSelected && each.selectedIndex > 0);
      return each.value !== each.defaultValue;
    });
  };

  const again = () => {
    const told = later;
    later = null;
    if (told) void written(told);
  };

  const drawnAnew = async (told) => {
    if (!document.querySelector("main.bench") || document.querySelector(".panel .bench-form")) return;
    const answer = await fetch(location.href, { headers: { "HX-Request": "true" } });
    if (!answer.ok) return;
    const html = await answer.text();
    if (sending()) {
      if (!later) setTimeout(again, NEXT_MS);
      later = told;
      return;
    }
    newest = told.seq;
    if (!inUse()) return void window.uranographOutbox.swap(html, true);
    const fresh = new DOMParser().parseFromString(html, "text/html");
    for (const part of ["#figure", ".rail", ".strip"]) {
      const [now, then] = [document.querySelector(part), fresh.querySelector(part)];
      if (now && then) {
        now.replaceWith(then);
        htmx.process(then);
      }
    }
    // The question stays; what was written since is known to it.
    const known = fresh.querySelector("form.reading-form input[name=seen]");
    if (known && form()) form().elements.seen.value = known.value;
  };

  const close = () => {
    source?.close();
    source = null;
  };

  const open = () => {
    const head = place();
    if (!head || source || document.hidden) return;
    source = new EventSource(`${head.dataset.url}?job=${head.dataset.job}&station=${head.dataset.station}&since=${seen()}`);
    source.addEventListener("instruments", (event) => {
      instruments = JSON.parse(event.data);
      document.dispatchEvent(new CustomEvent("uranograph:instruments", { detail: instruments }));
      show();
      whenStill();
    });
    source.addEventListener("collected", (event) => {
      document.dispatchEvent(new CustomEvent("uranograph:collected", { detail: JSON.parse(event.data) }));
    });
    source.addEventListener("here", (event) => {
      const here = JSON.parse(event.data);
      others(here);
      document.dispatchEvent(new CustomEvent("uranograph:here", { detail: here }));
    });
    source.addEventListener("passed", (event) => {
      document.dispatchEvent(new CustomEvent("uranograph:passed", { detail: JSON.parse(event.data) }));
    });
    source.addEventListener("written", (event) => void written(JSON.parse(event.data)));
  };

  document.addEventListener("DOMContentLoaded", open);
  // A page that is out of sight gives its line back: a browser has few of them.
  document.addEventListener("visibilitychange", () => (document.hidden ? close() : open()));
  addEventListener("pagehide", close);
  addEventListener("pageshow", open);
  document.addEventListener("htmx:afterSwap", () => {
    const head = place();
    if (head && source && !source.url.includes(`station=${head.dataset.station}&`)) {
      close();
      open();
    }
    show();
  });

  document.addEventListener(
    "keydown",
    (event) => {
      if (event.key !== "Enter" || event.target !== field() || field().value !== "") return;
      const now = taken();
      if (now) fill(now);
    },
    true,
  );
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-live-auto]")) {
      sessionStorage.setItem(AUTO, sessionStorage.getItem(AUTO) === "1" ? "0" : "1");
      armed = {};
      rested = {};
      show();
    }
    if (event.target.closest("form.reading-form button[type=submit]") && field()?.value === "" && taken()) fill(taken());
  });
  let held = "";
  document.addEventListener("input", (event) => {
    if (event.target !== field()) return;
    typedByHand();
    const slot = event.target.value === "" ? "" : form().elements.slot.value;
    const head = place();
    if (!head?.dataset.job || slot === held) return;
    held = slot;
    void fetch(head.dataset.hold, {
      method: "POST",
      headers: { "Content-Type": "application/x-www-form-urlencoded" },
      body: new URLSearchParams({ station: head.dataset.station, slot }),
    }).catch(() => {});
  });
})();

// The made-up engine of a practice job: turned by hand and felt; everything done is told to the server, which keeps the engine.
(() => {
  const WHEEL = [214, 330];
  const SEND_AFTER_MS = 160;
  const COOLS_EVERY_MS = 500;
  let engine = null;
  let turned = [];
  let timer = 0;
  let cooling = 0;
  let waiting = 0;
  let dragged = null;
  let drawnIn = null;
  let sending = Promise.resolve();

  const part = (name) => document.getElementById(name);
  const radians = (deg) => (deg * Math.PI) / 180;
  const draw = () => engine && window.uranographScene(engine);

  // Where the stop lets the crank go: between one top and the next, less what it keeps out.
  const within = (to) => {
    if (engine.held) return engine.crank;
    if (engine.stop === null) return to;
    const top = 360 * Math.floor((engine.crank - engine.stop) / 360 + 1e-9);
    return Math.max(top + engine.stop, Math.min(top + 360 - engine.stop, to));
  };

  const feel = (words) => {
    const note = part("engine-note");
    if (note && note.textContent !== words) note.textContent = words;
  };

  const turn = (by) => {
    if (!engine || !by) return;
    const to = within(engine.crank + by);
    const moved = to - engine.crank;
    feel(engine.held ? "A pin holds it." : Math.abs(moved - by) > 1e-6 ? "It is at the stop." : "");
    if (!moved) return;
    engine.crank = to;
    engine.lag = Math.min(engine.slack, Math.max(0, engine.lag - moved));
    const last = turned[turned.length - 1];
    if (last && Math.sign(last.by) === Math.sign(moved) && Math.abs(last.by + moved) < 1400) last.by += moved;
    else turned.push({ kind: "turn", on: "", by: moved });
    requestAnimationFrame(draw);
    busy(0);
    clearTimeout(timer);
    timer = setTimeout(send, SEND_AFTER_MS);
  };

  const take = (answer) => {
    Object.assign(engine, answer);
    engine.from = engine.crank;
    engine.lagged = engine.lag;
    engine.since = performance.now();
    engine.runs = Math.sin(radians(engine.crank + engine.wheel[2]));
    const stop = part("engine-stop");
    if (stop) {
      stop.dataset.by = engine.stop === null ? "8" : "0";
      stop.textContent = engine.stop === null ? "Stop in" : "Stop out";
    }
    requestAnimationFrame(draw);
  };

  const busy = (more) => {
    waiting += more;
    if (part("engine")) part("engine").ariaBusy = waiting + turned.length > 0 ? "true" : "false";
  };

  const tell = (acts) => {
    const url = part("engine").dataset.acts;
    busy(1);
    sending = sending.then(async () => {
      try {
        const answer = await fetch(url, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ acts }) });
        if (!answer.ok) throw new Error(String(answer.status));
        const found = await answer.json();
        if (turned.length === 0 && waiting === 1) take(found.turning);
        if (found.words) feel(found.words);
      } catch {
        feel("The engine does not answer just now: what was turned last is not kept. Load the page again.");
      }
      busy(-1);
    });
    return sending;
  };

  const send = () => {
    clearTimeout(timer);
    if (turned.length === 0) return sending;
    const acts = turned;
    turned = [];
    return tell(acts);
  };

  const begin = () => {
    const root = part("engine");
    if (!root) {
      engine = null;
      return;
    }
    // Other parts of the page are swapped as well: the engine begins anew only where it was drawn anew.
    if (root === drawnIn) return;
    drawnIn = root;
    engine = JSON.parse(root.dataset.turning);
    take({});
    busy(0);
    clearInterval(cooling);
    // A hot gear cools while one looks at it.
    if (part("needle-heat")) cooling = setInterval(draw, COOLS_EVERY_MS);
  };

  const angleAt = (event) => {
    const svg = part("engine").querySelector("svg");
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const [x, y] = part("gear-crank") ? part("gear-crank").dataset.at.split(" ").map(Number) : WHEEL;
    return (Math.atan2(at.x - x, y - at.y) * 180) / Math.PI;
  };

  document.addEventListener("pointerdown", (event) => {
    if (!engine || !event.target.closest("#wheel, #handle, #gear-crank")) return;
    event.preventDefault();
    dragged = angleAt(event);
    part("engine").setPointerCapture?.(event.pointerId);
  });
  document.addEventListener("pointermove", (event) => {
    if (dragged === null || !engine) return;
    const now = angleAt(event);
    turn(((now - dragged + 540) % 360) - 180);
    dragged = now;
  });
  for (const end of ["pointerup", "pointercancel"]) document.addEventListener(end, () => (dragged = null));

  document.addEventListener("wheel", (event) => {
    if (!engine || !event.target.closest("#engine svg")) return;
    event.preventDefault();
    turn(event.deltaY > 0 ? 0.25 : -0.25);
  }, { passive: false });

  document.addEventListener("keydown", (event) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    const typing = event.target.matches("select, [type=radio], textarea") || (event.target.matches("input") && event.target.value !== "");
    if (!engine || !way || typing || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    turn(way * (event.shiftKey ? 5 : 0.25));
  });

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-engine-act]");
    if (!button || !engine) return;
    if (button.dataset.engineAct === "turn") {
      turn(Number(button.dataset.by));
      return;
    }
    if (button.dataset.engineAct === "pointer") {
      // Seen at once; the server keeps it.
      engine.wheel[0] += Number(button.dataset.by);
      requestAnimationFrame(draw);
    }
    const on = button.dataset.on || (button.dataset.from ? part(button.dataset.from).value : "");
    send();
    const by = button.dataset.byFrom ? part(button.dataset.byFrom).value : button.dataset.by;
    tell([{ kind: button.dataset.engineAct, on, by: Number(by || 0) }]);
  });

  document.addEventListener("change", (event) => {
    const choice = event.target.closest("[data-engine-choice]");
    if (!choice || !engine) return;
    send();
    tell([{ kind: choice.dataset.engineChoice, on: choice.value, by: 0 }]);
    // The arrow keys turn the engine again.
    choice.blur();
  });

  document.addEventListener("htmx:beforeRequest", () => void send());
  document.addEventListener("htmx:afterSwap", begin);
  addEventListener("load", begin);
  addEventListener("pagehide", send);
})();

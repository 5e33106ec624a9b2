// A made-up engine is turned by dragging its handle, the mouse wheel, buttons or arrow keys. What is felt at a real one is felt
// here: the stop stops, slack lets the needle wait, a pin holds. Every turn is told to the server, which keeps the engine.
(() => {
  const CRANK = [486, 440];
  const THROW = 40;
  const WHEEL = [214, 330];
  const DIAL = [646, 146];
  const LOBE = [646, 440];
  const BASE = 34;
  const PER_MM = 5.5;
  const SEND_AFTER_MS = 160;
  let engine = null;
  let turned = [];
  let timer = 0;
  let waiting = 0;
  let dragged = null;
  let drawnIn = null;
  let sending = Promise.resolve();

  const part = (name) => document.getElementById(name);
  const radians = (deg) => (deg * Math.PI) / 180;

  const drop = (deg) => {
    const half = engine.stroke / 2;
    const x = half * Math.sin(radians(deg));
    return half * (1 - Math.cos(radians(deg))) + engine.rod - Math.sqrt(engine.rod ** 2 - x ** 2);
  };

  const liftAt = (lobe, deg) => {
    const table = engine.lifts[lobe];
    const at = ((((deg + engine.lag) % 720) + 720) % 720) / engine.step;
    const low = Math.floor(at);
    const share = at - low;
    return table[low % table.length] * (1 - share) + table[(low + 1) % table.length] * share;
  };

  const underDial = () => {
    const on = engine.dial.on;
    if (on === "piston") return -drop(engine.crank);
    return engine.lifts[on] ? liftAt(on, engine.crank) : 0;
  };

  const ring = (lobe) => {
    // The lobe as a shape: its lift at every angle before the lifter, half a crank turn is a quarter of the cam.
    const points = [];
    for (let cam = 0; cam < 360; cam += 2) {
      const radius = BASE + PER_MM * liftAt(lobe, engine.crank - cam * 2);
      points.push(`${(LOBE[0] + radius * Math.sin(radians(cam))).toFixed(1)} ${(LOBE[1] - radius * Math.cos(radians(cam))).toFixed(1)}`);
    }
    return `M${points.join("L")}Z`;
  };

  const draw = () => {
    const crank = engine.crank;
    const shown = crank - engine.from + engine.wheel[0] + engine.wheel[1] * (Math.sin(radians(crank + engine.wheel[2])) - engine.runs);
    part("wheel").setAttribute("transform", `rotate(${shown.toFixed(3)} ${WHEEL[0]} ${WHEEL[1]})`);
    part("handle").setAttribute("transform", `rotate(${crank.toFixed(2)} ${WHEEL[0]} ${WHEEL[1]})`);
    part("cam-gear").setAttribute("transform", `rotate(${(-(crank + engine.lag) / 2).toFixed(2)} 214 104)`);
    const rod = (THROW * 2 * engine.rod) / engine.stroke;
    const pin = [CRANK[0] + THROW * Math.sin(radians(crank)), CRANK[1] - THROW * Math.cos(radians(crank))];
    const down = (drop(crank) / engine.stroke) * 2 * THROW;
    part("piston").setAttribute("transform", `translate(0 ${down.toFixed(2)})`);
    const ends = { rod: [pin, [CRANK[0], CRANK[1] - THROW - rod + down]], throw: [CRANK, pin] };
    for (const [name, [start, end]] of Object.entries(ends)) {
      const line = part(name).firstElementChild;
      line.setAttribute("x1", start[0].toFixed(1));
      line.setAttribute("y1", start[1].toFixed(1));
      line.setAttribute("x2", end[0].toFixed(1));
      line.setAttribute("y2", end[1].toFixed(1));
    }
    part("stop").setAttribute("class", engine.stop === null ? "stop-out" : "");
    const depth = engine.stop_mm ? (engine.stop_mm / engine.stroke) * 2 * THROW : 0;
    part("stop").setAttribute("transform", `translate(0 ${depth.toFixed(2)})`);
    const lobe = engine.dial.on === "exhaust" ? "exhaust" : "intake";
    part("lobe").firstElementChild.setAttribute("d", ring(lobe));
    part("lifter").setAttribute("transform", `translate(0 ${(-PER_MM * liftAt(lobe, crank)).toFixed(2)})`);
    const needle = (underDial() - engine.dial.zero) / engine.dial.lean;
    part("needle").setAttribute("transform", `rotate(${(needle * 360).toFixed(2)} ${DIAL[0]} ${DIAL[1]})`);
    part("small-hand").setAttribute("transform", `rotate(${(needle * 36).toFixed(2)} ${DIAL[0]} ${DIAL[1] + 20})`);
  };

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
  };

  const angleAt = (event) => {
    const svg = part("engine").querySelector("svg");
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return (Math.atan2(at.x - WHEEL[0], WHEEL[1] - at.y) * 180) / Math.PI;
  };

  document.addEventListener("pointerdown", (event) => {
    if (!engine || !event.target.closest("#wheel, #handle")) return;
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
    tell([{ kind: button.dataset.engineAct, on, by: Number(button.dataset.by || 0) }]);
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

// Draws the made-up engine as it stands: what turns, what is pushed, what is hot. `uranographScene(engine)` draws one engine.
(() => {
  const CRANK = [486, 440];
  const THROW = 40;
  const WHEEL = [214, 330];
  const DIAL = [646, 146];
  const LOBE = [646, 440];
  const FACE = [540, 210];
  const BASE = 34;
  const PER_MM = 5.5;
  const ROOM_C = 20;
  const HALF_S = 240;
  let engine = null;

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
    if (on === "seat") {
      const [bent, high, oval, at] = engine.seat;
      return bent * Math.cos(radians(engine.crank - high)) + oval * Math.cos(2 * radians(engine.crank - at));
    }
    return engine.lifts[on] ? liftAt(on, engine.crank) : engine.dial.under;
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

  const drawWheel = () => {
    const crank = engine.crank;
    const shown = crank - engine.from + engine.wheel[0] + engine.wheel[1] * (Math.sin(radians(crank + engine.wheel[2])) - engine.runs);
    part("wheel").setAttribute("transform", `rotate(${shown.toFixed(3)} ${WHEEL[0]} ${WHEEL[1]})`);
    part("handle").setAttribute("transform", `rotate(${crank.toFixed(2)} ${WHEEL[0]} ${WHEEL[1]})`);
    part("cam-gear").setAttribute("transform", `rotate(${(-(crank + engine.lag) / 2).toFixed(2)} 214 104)`);
  };

  const drawGears = () => {
    for (const [name, deg, ratio] of engine.gears) {
      const gear = part(`gear-${name}`);
      const lag = name === "cam" ? engine.lag - engine.lagged : 0;
      gear.setAttribute("transform", `rotate(${(deg + ratio * (engine.crank - engine.from + lag)).toFixed(3)} ${gear.dataset.at})`);
    }
  };

  const drawHeat = () => {
    const [hot, before, on, home] = engine.heat;
    const c = ROOM_C + (hot - ROOM_C) * 2 ** (-(before + (performance.now() - engine.since) / 1000) / HALF_S);
    part("needle-heat").setAttribute("transform", `rotate(${(c * 0.9 - 135).toFixed(2)} ${FACE[0]} ${FACE[1]})`);
    part("gear-side").setAttribute("transform", `translate(${on ? (home ? 176 : 96) : 0} 0)`);
  };

  const drawBeside = () => {
    const crank = engine.crank;
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
    const onLobe = engine.dial.on in engine.lifts;
    for (const name of ["lobe", "lifter", "guides"]) part(name).setAttribute("class", onLobe ? "" : "stop-out");
    part("dial-else").setAttribute("class", onLobe ? "stop-out" : "");
    for (const words of part("dial-else").querySelectorAll("g")) {
      words.setAttribute("class", words.id === `dial-on-${engine.dial.on}` ? "" : "stop-out");
    }
    const lobe = engine.dial.on === "exhaust" ? "exhaust" : "intake";
    part("lobe").firstElementChild.setAttribute("d", ring(lobe));
    part("lifter").setAttribute("transform", `translate(0 ${(-PER_MM * liftAt(lobe, crank)).toFixed(2)})`);
    const needle = (underDial() - engine.dial.zero) / engine.dial.lean;
    part("needle").setAttribute("transform", `rotate(${(needle * 360).toFixed(2)} ${DIAL[0]} ${DIAL[1]})`);
    part("small-hand").setAttribute("transform", `rotate(${(needle * 36).toFixed(2)} ${DIAL[0]} ${DIAL[1] + 20})`);
  };

  window.uranographScene = (now) => {
    engine = now;
    if (part("needle-heat")) {
      drawHeat();
      return;
    }
    if (part("wheel")) drawWheel();
    if (part("gears")) drawGears();
    drawBeside();
  };
})();

// The train is turned by dragging, by keys, by a tooth or a turn. Speeds and marks come from the server; here they only turn.
(() => {
  const bar = () => document.querySelector("[data-train]");
  let teeth = 0;
  let drawn = 0;
  let grabbed = null;
  let asked = 0;
  let frame = 0;
  let question = new AbortController();

  const turning = () => document.querySelectorAll("#figure .turning");

  const draw = () => {
    frame = 0;
    const crank = (drawn * 360) / Number(bar().dataset.teeth);
    for (const gear of turning()) {
      const at = `translate(${gear.dataset.x} ${gear.dataset.y})`;
      gear.setAttribute("transform", `${at} rotate(${(crank * gear.dataset.speed) % 360})`);
    }
  };

  const wanted = () => {
    if (!frame) frame = requestAnimationFrame(draw);
  };

  // An answer that a later question has overtaken is not shown.
  const ask = async () => {
    if (!bar()) return;
    question.abort();
    question = new AbortController();
    try {
      const answer = await fetch(`${bar().dataset.at}?teeth=${teeth}`, { signal: question.signal });
      const words = await answer.text();
      const table = document.querySelector("#train-at");
      if (answer.ok && table) table.innerHTML = words;
    } catch (error) {
      if (error.name !== "AbortError") document.dispatchEvent(new CustomEvent("htmx:sendError"));
    }
  };

  const tell = () => {
    clearTimeout(asked);
    asked = setTimeout(ask, 60);
  };

  const glide = (from, to) => {
    const start = performance.now();
    const took = Math.min(1200, 160 + 6 * Math.abs(to - from));
    const still = matchMedia("(prefers-reduced-motion: reduce)").matches;
    const step = (now) => {
      if (to !== teeth || grabbed || !bar()) return;
      const share = still ? 1 : Math.min(1, (now - start) / took);
      drawn = from + (to - from) * share * share * (3 - 2 * share);
      draw();
      if (share < 1) requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  };

  const go = (to) => {
    teeth = to;
    glide(drawn, to);
    tell();
  };

  const step = (by) => go(by === "home" ? 0 : teeth + Number(by));

  const angle = (gear, event) => {
    const svg = gear.ownerSVGElement;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return (Math.atan2(at.y - gear.dataset.y, at.x - gear.dataset.x) * 180) / Math.PI;
  };

  document.addEventListener("click", (event) => {
    const button = event.target.closest && event.target.closest("[data-step]");
    if (button && bar()) step(button.dataset.step);
  });

  document.addEventListener("keydown", (event) => {
    if (!bar() || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target instanceof HTMLElement && event.target.matches("input, textarea, select, .strip")) return;
    const turn = bar().dataset.teeth;
    const by = { ArrowRight: "1", ArrowLeft: "-1", PageUp: turn, PageDown: `-${turn}`, Home: "home" }[event.key];
    if (!by) return;
    event.preventDefault();
    step(by);
  });

  document.addEventListener("pointerdown", (event) => {
    const gear = event.target.closest && event.target.closest("#figure .turning");
    if (!gear || !bar()) return;
    grabbed = { gear, last: angle(gear, event) };
    event.preventDefault();
  });

  document.addEventListener("pointermove", (event) => {
    if (!grabbed) return;
    const now = angle(grabbed.gear, event);
    const by = ((now - grabbed.last + 540) % 360) - 180;
    grabbed.last = now;
    drawn += (by / grabbed.gear.dataset.speed / 360) * Number(bar().dataset.teeth);
    teeth = Math.round(drawn);
    wanted();
    tell();
  });

  const release = () => {
    if (!grabbed) return;
    grabbed = null;
    go(Math.round(drawn));
  };
  document.addEventListener("pointerup", release);
  document.addEventListener("pointercancel", release);

  // After a reload the train is back where all marks align.
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.target.id !== "bench" && !document.querySelector("#bench")) return;
    if (event.target.id === "train-at") return;
    teeth = drawn = 0;
  });
})();

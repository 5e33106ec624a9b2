// A lobe swept, a shaft turned or a part rocked while instruments read: drawn as it comes, kept once it is whole.
(() => {
  let keeping = false;
  let rocking = false;

  const box = () => document.querySelector("[data-collect]");
  const say = (words) => {
    const line = box()?.querySelector("[data-collect-words]");
    if (line && line.textContent !== words) line.textContent = words;
  };

  const post = async (path, what) => {
    const answer = await fetch(box().dataset.url + path, {
      method: "POST",
      headers: { "Content-Type": "application/x-www-form-urlencoded" },
      body: new URLSearchParams({ what, ambient: box().dataset.ambient ?? "", grips: box().dataset.grips ?? "" }),
    });
    const found = await answer.json();
    if (!answer.ok) say(found.error || "It could not be kept.");
    return answer.ok ? found : null;
  };

  const draw = (points) => {
    const svg = box().querySelector("svg");
    if (!svg) return;
    svg.toggleAttribute("hidden", points.length < 2);
    if (points.length < 2) return;
    const [first, last] = [points[0][0], points[points.length - 1][0]];
    const lifts = points.map((each) => each[1]);
    const least = box().dataset.collect === "cool" ? Math.min(...lifts) : Math.min(0, ...lifts);
    const most = Math.max(least + 0.02, ...lifts);
    const at = ([deg, mm]) => `${((deg - first) / Math.max(1, last - first)) * 296 + 2},${86 - ((mm - least) / (most - least)) * 80}`;
    svg.firstElementChild.setAttribute("points", points.map(at).join(" "));
  };

  const keep = async () => {
    if (keeping) return;
    keeping = true;
    const found = await post("/keep", box().dataset.collect);
    keeping = false;
    // The page is drawn anew with what was kept.
    if (found) location.assign(`${location.pathname}${box().dataset.after}`);
  };

  const gaps = (count) => (count ? ` ${count} gap${count > 1 ? "s" : ""}: turn slower.` : "");

  const turned = (told) => {
    draw(told.points);
    const whole = told.of === "turn" ? 360 : 720;
    const runs = told.harmonics ? ` TIR ${told.harmonics[0].toFixed(3)} mm, high at ${told.harmonics[1]}°, out-of-round ${told.harmonics[2].toFixed(3)} mm.` : "";
    if (told.back) say(`Turning backward: ${told.points.length} points. On, over the nose and down to the base circle.`);
    else if (told.backward) say("Turned backward: not taken. Forward again.");
    else say(`${told.turned} of ${whole} degrees, ${told.points.length} points.${gaps(told.gaps)}${runs}`);
    if (told.whole) void keep();
  };

  // A travel goes into the waiting field as one reading of the dial.
  const rocked = (told) => {
    if (!rocking) return;
    if (!told.whole) {
      say(`${told.times} of 3 times${told.text ? `, ${told.text} ${told.unit} last` : ""}. Rest at each end.`);
      return;
    }
    rocking = false;
    say(`${told.text} ${told.unit}.`);
    void fetch(`${box().dataset.url}/stop`, { method: "POST" }).catch(() => {});
    document.dispatchEvent(new CustomEvent("uranograph:taken", { detail: told }));
  };

  // How hot it is, and how long until it grips by the way it cools.
  const cooled = (told) => {
    draw(told.points);
    if (told.now === null) return;
    const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
    if (told.left === 0) say(`${told.now} °C: it grips at ${told.grips} °C.`);
    else say(`${told.now} °C; grips at ${told.grips} °C${told.left === null ? ": hold on, its curve is too short yet" : `, in ${clock(told.left)} as it cools now`}.`);
  };

  let kinds = new Set();
  const shown = () => {
    const wanted = { rock: ["length"], cool: ["temperature"] }[box()?.dataset.collect] ?? ["angle", "length"];
    if (box()) box().hidden = !wanted.every((kind) => kinds.has(kind));
  };
  document.addEventListener("uranograph:instruments", (event) => {
    kinds = new Set(event.detail.filter((each) => each.state === "live").map((each) => each.kind));
    shown();
  });
  document.addEventListener("htmx:afterSwap", shown);
  document.addEventListener("uranograph:collected", (event) => {
    const told = event.detail;
    if (!box() || box().dataset.of !== told.of) return;
    if (told.of === "rock") rocked(told);
    else if (told.of === "cool") cooled(told);
    else turned(told);
  });
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-collect-begin]");
    if (!button) return;
    const what = button.dataset.collectBegin || box().dataset.collect;
    void post("", what).then((found) => {
      if (!found) return;
      rocking = what === "rock";
      if (rocking) say("Push it from one end to the other, and rest at each.");
      else say(found.back ? "Turn slowly backward, over the nose." : box().dataset.begun);
    });
  });
})();

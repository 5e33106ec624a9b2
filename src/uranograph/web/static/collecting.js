// A lobe swept, a shaft turned or a part rocked while instruments read: drawn as it comes, kept once it is whole.
(() => {
  const APART_DEG = 12;
  const BEGUN_DEG = 2;
  let keeping = false;
  // Why it could not be kept stands until it is begun again.
  let refused = false;
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
    }).catch(() => null);
    // The server is away: it is asked again with what comes next.
    if (!answer) return undefined;
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

  // The same points in the large figure, where it has a scale for them: each at its angle about overlap TDC.
  const drawLarge = (points) => {
    const chart = box().dataset.chart && JSON.parse(box().dataset.chart);
    const svg = document.querySelector("#figure > svg.lift");
    if (!chart || !svg) return;
    let line = svg.querySelector(".live-curve");
    if (!line) {
      line = document.createElementNS(svg.namespaceURI, "path");
      line.classList.add("measured-curve", "live-curve");
      svg.append(line);
    }
    const placed = points.map(([deg, mm]) => [chart.middle + ((((deg - chart.zero - chart.middle) % 360) + 540) % 360) - 180, mm]);
    const x = (deg) => chart.left + ((chart.right - chart.left) * (deg - chart.low)) / (chart.high - chart.low);
    const y = (mm) => chart.bottom - ((chart.bottom - chart.top) * mm) / chart.full;
    const seen = placed.filter(([deg]) => deg >= chart.low && deg <= chart.high).sort((one, other) => one[0] - other[0]);
    // What was not turned over is no line.
    const joined = (k) => k > 0 && seen[k][0] - seen[k - 1][0] < APART_DEG;
    line.setAttribute("d", seen.map(([deg, mm], k) => `${joined(k) ? "L" : "M"}${x(deg).toFixed(1)} ${Math.max(0, y(mm)).toFixed(1)}`).join(""));
  };

  const keep = async () => {
    if (keeping) return;
    keeping = true;
    const found = await post("/keep", box().dataset.collect);
    keeping = false;
    refused = found === null;
    // The page is drawn anew with what was kept.
    if (found) location.assign(`${location.pathname}${box().dataset.after}`);
  };

  const gaps = (count) => (count ? ` ${count} gap${count > 1 ? "s" : ""}: turn slower.` : "");

  const turned = (told) => {
    if (refused) return;
    draw(told.points);
    drawLarge(told.points);
    const whole = told.of === "turn" ? 360 : 720;
    const runs = told.harmonics ? ` TIR ${told.harmonics[0].toFixed(3)} mm, high at ${told.harmonics[1]}°, out-of-round ${told.harmonics[2].toFixed(3)} mm.` : "";
    // What to do stands there until it is done.
    if (told.turned < BEGUN_DEG && !told.back && !told.backward) say(box().dataset.begun);
    else if (told.back) say(`Turning backward: ${told.points.length} points. On, over the nose and down to the base circle.`);
    else if (told.backward) say("Turned backward: not taken. Forward again.");
    else if (told.gap) say(`Gap at ${told.gap}: turn on, slowly, over it once more.`);
    else if (told.valve) say(`${told.turned} degrees turned.${gaps(told.gaps)} On, until the base circle comes again.`);
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

  // The travel of a dial over one turn: the hand says when the turn is done.
  let watched = null;
  const watching = (told) => {
    watched = told;
    const done = box().querySelector("[data-collect-done]");
    if (done) done.hidden = told.travel === null;
    if (told.travel !== null) say(`${told.text} ${told.unit} so far${told.back ? ", the dial is where it began" : ""}.`);
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
    const wanted = { rock: ["length"], watch: ["length"], cool: ["temperature"] }[box()?.dataset.collect] ?? ["angle", "length"];
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
    else if (told.of === "watch") watching(told);
    else if (told.of === "cool") cooled(told);
    else turned(told);
  });
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-collect-done]") && watched) {
      void fetch(`${box().dataset.url}/stop`, { method: "POST" }).catch(() => {});
      document.dispatchEvent(new CustomEvent("uranograph:taken", { detail: watched }));
      watched = null;
      return;
    }
    const button = event.target.closest("[data-collect-begin]");
    if (!button) return;
    const what = button.dataset.collectBegin || box().dataset.collect;
    refused = false;
    void post("", what).then((found) => {
      if (!found) return;
      rocking = what === "rock";
      if (rocking) say("Push it from one end to the other, and rest at each.");
      else say(found.back ? "Turn slowly backward, over the nose." : box().dataset.begun);
    });
  });
})();

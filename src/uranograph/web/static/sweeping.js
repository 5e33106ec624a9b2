// A lobe swept by encoder and dial: points as they come, kept once two turns were made.
(() => {
  let keeping = false;

  const box = () => document.querySelector("[data-sweep-live]");
  const say = (words) => {
    const line = box()?.querySelector("[data-sweep-words]");
    if (line && line.textContent !== words) line.textContent = words;
  };

  const post = async (path) => {
    const answer = await fetch(box().dataset.url + path, {
      method: "POST",
      headers: { "Content-Type": "application/x-www-form-urlencoded" },
      body: new URLSearchParams({ lobe: box().dataset.sweepLive }),
    });
    const found = await answer.json();
    if (!answer.ok) say(found.error || "It could not be kept.");
    return answer.ok ? found : null;
  };

  const draw = (points) => {
    const svg = box().querySelector("svg");
    svg.toggleAttribute("hidden", points.length < 2);
    if (points.length < 2) return;
    const [first, last] = [points[0][0], points[points.length - 1][0]];
    const most = Math.max(1, ...points.map((each) => each[1]));
    const at = ([deg, mm]) => `${((deg - first) / Math.max(1, last - first)) * 296 + 2},${86 - (Math.max(0, mm) / most) * 80}`;
    svg.firstElementChild.setAttribute("points", points.map(at).join(" "));
  };

  const keep = async () => {
    if (keeping) return;
    keeping = true;
    const found = await post("/keep");
    keeping = false;
    // The page is drawn anew with what was kept.
    if (found) location.assign(`${location.pathname}?method=sweep&lobe=${box().dataset.sweepLive}`);
  };

  document.addEventListener("uranograph:instruments", (event) => {
    const kinds = new Set(event.detail.filter((each) => each.state === "live").map((each) => each.kind));
    if (box()) box().hidden = !(kinds.has("angle") && kinds.has("length"));
  });
  document.addEventListener("uranograph:sweep", (event) => {
    const told = event.detail;
    if (!box() || told.lobe !== box().dataset.sweepLive) return;
    draw(told.points);
    const gaps = told.gaps ? ` ${told.gaps} gap${told.gaps > 1 ? "s" : ""}: turn slower.` : "";
    if (told.backward) say("Turned backward: what is read so is not taken. Turn forward again.");
    else say(`${told.turned} of 720 degrees, ${told.points.length} points.${gaps}`);
    if (told.whole) void keep();
  });
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-sweep-begin]")) void post("").then((found) => found && say("Turn slowly forward, two turns."));
  });
})();

// A frame as tall as what is in it, and in the light of the page around it: nothing runs inside.
(() => {
  const fit = (frame) => {
    const inside = frame.contentDocument;
    if (!inside || !inside.body) return;
    for (const name of ["light", "bsTheme"]) inside.documentElement.dataset[name] = document.documentElement.dataset[name];
    frame.style.height = `${inside.body.scrollHeight}px`;
  };
  for (const frame of document.querySelectorAll("iframe[data-as-tall]")) {
    frame.addEventListener("load", () => fit(frame));
    addEventListener("resize", () => fit(frame));
    fit(frame);
  }
})();

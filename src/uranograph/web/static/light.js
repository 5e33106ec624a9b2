// The light that the device has, before anything is drawn, and as it changes.
(() => {
  const root = document.documentElement;
  if (!root.hasAttribute("data-follow")) return;
  const dark = matchMedia("(prefers-color-scheme: dark)");
  const follow = () => {
    root.dataset.light = dark.matches ? "night" : "day";
    root.dataset.bsTheme = dark.matches ? "dark" : "light";
  };
  dark.addEventListener("change", follow);
  follow();
})();

// Count down to the moment that stands in data-grips-at, seconds since 1970.
(() => {
  const tick = () => {
    for (const line of document.querySelectorAll("[data-grips-at]")) {
      const left = Math.max(0, Math.round(Number(line.dataset.gripsAt) - Date.now() / 1000));
      const figure = line.querySelector(".reading-large");
      figure.textContent = `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}`;
      if (left === 0) line.querySelector(".plain").textContent = "it grips: heat it again before it goes on";
    }
  };
  setInterval(tick, 500);
  document.addEventListener("htmx:load", tick);
})();

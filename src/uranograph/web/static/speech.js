// What an answer changes, for those who do not look: always in a live region, aloud where that is wanted.
(() => {
  const kept = "uranograph-speech";
  const wanted = () => localStorage.getItem(kept) === "on";
  let before = "";

  const words = (selector) => document.querySelector(selector)?.innerText.replace(/\s+/g, " ").trim() ?? "";
  const say = () => {
    const told = [words(".panel .verdict > span:last-child"), words(".panel .headline"), words(".panel .instruction")].filter(Boolean).join(". ");
    if (!told || told === before) return;
    before = told;
    const region = document.getElementById("spoken");
    if (region) region.textContent = told;
    if (!wanted()) return;
    speechSynthesis.cancel();
    speechSynthesis.speak(new SpeechSynthesisUtterance(told));
  };
  const show = () => document.querySelector("[data-speech]")?.setAttribute("aria-pressed", String(wanted()));

  document.addEventListener("click", (event) => {
    if (!event.target.closest("[data-speech]")) return;
    localStorage.setItem(kept, wanted() ? "off" : "on");
    before = "";
    show();
    if (wanted()) say();
    else speechSynthesis.cancel();
  });
  document.addEventListener("DOMContentLoaded", () => {
    if (!("speechSynthesis" in window)) document.querySelector("[data-speech]")?.remove();
    show();
    say();
  });
  document.addEventListener("htmx:afterSwap", say);
})();

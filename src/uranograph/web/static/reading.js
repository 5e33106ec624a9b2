// Letters typed into a reading say its side: b, a, btdc, abdc. They never land among the digits.
(() => {
  const words = ["btdc", "atdc", "bbdc", "abdc"];
  let typed = "";
  let last = 0;

  const sides = () => [...document.querySelectorAll(".reading-form input[name=side]")];

  const choose = (letters) => {
    const offered = sides();
    const current = offered.find((side) => side.checked);
    const exact = offered.filter((side) => side.value.startsWith(letters));
    let wanted = exact[0];
    if (letters.length === 1 && current && current.value.startsWith(letters)) {
      wanted = exact[(exact.indexOf(current) + 1) % exact.length];
    } else if (letters.length === 1 && current) {
      wanted = exact.find((side) => side.value.slice(1) === current.value.slice(1)) || wanted;
    }
    if (wanted) {
      wanted.checked = true;
      wanted.dispatchEvent(new Event("input", { bubbles: true }));
    }
  };

  document.addEventListener("keydown", (event) => {
    if (!(event.target instanceof HTMLElement) || !event.target.matches("[data-reading]")) return;
    if (event.ctrlKey || event.metaKey || event.altKey || !sides().length) return;
    const letter = event.key.toLowerCase();
    if (!/^[abtdc]$/.test(letter)) {
      typed = "";
      return;
    }
    event.preventDefault();
    const now = performance.now();
    if (now - last > 1500) typed = "";
    last = now;
    const longer = typed + letter;
    if (words.some((word) => word.startsWith(longer))) typed = longer;
    else if (letter === "a" || letter === "b") typed = letter;
    else return;
    choose(typed);
  });
})();

// The lift line is dragged on the figure; the slider below it carries the value.
(() => {
  let grabbed = null;

  const height = (svg, event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse()).y;

  document.addEventListener("pointerdown", (event) => {
    const line = event.target.closest && event.target.closest(".lift-grab");
    const slider = document.getElementById("lift");
    if (!line || !slider) return;
    const zero = Number(slider.dataset.zero);
    grabbed = { zero, perUnit: Number(slider.value) / (zero - Number(line.getAttribute("y1"))) };
    event.preventDefault();
  });

  document.addEventListener("pointermove", (event) => {
    const svg = document.querySelector("#figure > svg.lift");
    const slider = document.getElementById("lift");
    if (!grabbed || !svg || !slider) return;
    const before = slider.value;
    slider.value = (grabbed.zero - height(svg, event)) * grabbed.perUnit;
    if (slider.value !== before) slider.dispatchEvent(new Event("input", { bubbles: true }));
  });

  document.addEventListener("pointerup", () => {
    grabbed = null;
  });
})();

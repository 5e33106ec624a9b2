// The sheet of gears shows one empty row more than are filled in.
document.addEventListener("click", (event) => {
  if (!event.target.closest || !event.target.closest("[data-add-gear]")) return;
  const next = document.querySelector("[data-gear-row][hidden]");
  if (!next) return;
  next.hidden = false;
  next.querySelector("input").focus();
});

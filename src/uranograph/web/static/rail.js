// Where the rail lies along the top, it follows the station that is open.
(() => {
  const follow = () => {
    const rail = document.querySelector(".rail");
    const here = rail && rail.querySelector(".station.here");
    if (here && rail.scrollWidth > rail.clientWidth) {
      rail.scrollLeft += here.getBoundingClientRect().left - rail.getBoundingClientRect().left - (rail.clientWidth - here.clientWidth) / 2;
    }
  };
  document.addEventListener("DOMContentLoaded", follow);
  document.addEventListener("htmx:afterSettle", follow);
})();

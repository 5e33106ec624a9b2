"""Engines drawn by a seed, as wide as engines are, and the faults that can be planted in them."""

import random
from dataclasses import replace

from uranograph.world.lobes import Lobe
from uranograph.world.parts import Adjuster, Fit, Mesh, Parts, Shaft, Sprockets, Thrust, Valve
from uranograph.world.state import DialMount, State, WheelMount, World

# Firing orders by cylinders, even-fire.
ORDERS = {
    1: (1,),
    2: (1, 2),
    3: (1, 3, 2),
    4: (1, 3, 4, 2),
    6: (1, 5, 3, 6, 2, 4),
    8: (1, 8, 4, 3, 6, 5, 7, 2),
    12: (1, 12, 5, 8, 3, 10, 6, 7, 2, 11, 4, 9),
}
# What can be planted, and where it shows.
FAULTS = {
    "bent-crank": "runout",
    "tight-play": "end-play",
    "loose-play": "end-play",
    "tight-place": "backlash",
    "loose-mesh": "backlash",
    "tooth-off": "marks",
    "dot-wrong": "marks",
    "lobe-rubs": "lobe-room",
    "out-of-line": "sprocket",
    "tight-valve": "valve-lash",
    "valve-near": "piston-valve",
    "gear-slipped": "wrong",
    "cam-late": "degree",
    "cam-degrees": "degree",
    "wheel-mirrored": "degree",
    "uneven-lobes": "degree",
    "bleeding": "degree",
}


def made(seed: int, faults: tuple[str, ...] = (), chain: bool | None = None, cylinders: int | None = None) -> World:
    """An engine by its seed.

    Parameters
    ----------
    seed
        The same seed gives the same engine.
    faults
        Of `FAULTS`; the engine is sound otherwise.
    chain, cylinders
        Which drive and how many cylinders; drawn unless given.

    Returns
    -------
    World
        The engine, everything on, the crank at overlap TDC of the first cylinder.

    Examples
    --------
    >>> made(7) == made(7), made(7) == made(8)
    (True, False)
    """
    r = random.Random(f"world {seed}")
    count = r.choice((1, 2, 3, 4, 4, 4, 6, 6, 8, 12))
    order = ORDERS[cylinders or count]
    drawn = r.random() < 0.5
    lobes, card = _lobes(r, faults)
    parts = Parts(
        cylinders=len(order),
        order=order,
        stroke_mm=round(r.uniform(60, 130)),
        rod_mm=0.0,
        rotation=r.choice(("clockwise", "clockwise", "counterclockwise")),
        lobes=lobes,
        card=card,
        seat=_seat(r, faults),
        cam_seat=Shaft(r.uniform(0.005, 0.03), r.uniform(0, 360)),
        thrusts={shaft: _thrust(r, shaft, faults) for shaft in ("crank", "cam")},
        mesh=_mesh(r, faults, drawn if chain is None else chain),
        fit=_fit(r),
        valves=(),
        sprockets=_sprockets(r, faults),
        adjuster=_adjuster(r, faults),
        hydraulic="bleeding" in faults,
        bleed_mm=r.uniform(0.15, 0.4) if "bleeding" in faults else 0.0,
        slack_deg=r.uniform(0.3, 2.5),
        ratchet=r.random() < 0.3,
        dot_off_teeth=r.choice((-1, 1)) if "dot-wrong" in faults else 0,
    )
    parts = replace(parts, rod_mm=round(parts.stroke_mm * r.uniform(1.55, 2.0)), valves=_valves(r, order, faults))
    late = r.choice((-1, 1)) * r.uniform(2.5, 8) if "cam-late" in faults else r.gauss(0, 0.15)
    wheel = WheelMount(
        zero_deg=r.uniform(-5, 5),
        scale=_scale(r, faults),
        mirrored="wheel-mirrored" in faults,
        division_deg=r.choice((1.0, 0.5)),
        high_deg=r.uniform(0, 360),
    )
    state = State(
        late_deg=late,
        wheel=wheel,
        dial=DialMount("intake"),
        position=parts.adjuster.fitted,
        teeth_off=r.choice((-1, 1)) if "tooth-off" in faults else 0,
        gear_slipped_deg=r.choice((-1, 1)) * r.uniform(4, 25) if "gear-slipped" in faults else 0.0,
    )
    return World(parts, state, seed)


def _scale(r: random.Random, faults: tuple[str, ...]) -> str:
    """A wheel's scale: only one that is numbered all round can be read the other way, the others say the side."""
    drawn = r.choice(("half", "quarter", "full"))
    return "full" if "wheel-mirrored" in faults else drawn


def _lobes(r: random.Random, faults: tuple[str, ...]) -> tuple[dict[str, Lobe], dict[str, float]]:
    check = r.choice((1.0, 1.27))
    uneven = r.choice((-1, 1)) * r.uniform(1.5, 3) if "uneven-lobes" in faults else r.gauss(0, 0.2)
    lobes, card = {}, {"check_lift": check}
    for name, low, high, sign in (("intake", 102, 114, 1), ("exhaust", 104, 118, -1)):
        middle, half = sign * float(round(r.uniform(low, high))), round(r.uniform(205, 255)) / 2
        top = round(r.uniform(7.5, 11.5), 2)
        lobes[name] = Lobe(middle, half, top, check, r.uniform(1.5, 2.3), uneven + r.gauss(0, 0.1))
        card[f"{name}_max_lift"] = top
    intake, exhaust = lobes["intake"], lobes["exhaust"]
    card |= {
        "io_btdc_deg": intake.half_deg - intake.middle_deg,
        "ic_abdc_deg": intake.middle_deg + intake.half_deg - 180,
        "eo_bbdc_deg": exhaust.half_deg - exhaust.middle_deg - 180,
        "ec_atdc_deg": exhaust.middle_deg + exhaust.half_deg,
    }
    return lobes, card


def _seat(r: random.Random, faults: tuple[str, ...]) -> Shaft:
    bent = r.uniform(0.1, 0.2) if "bent-crank" in faults else r.uniform(0.005, 0.03)
    return Shaft(bent, r.uniform(0, 360), r.uniform(0, 0.012), r.uniform(0, 180))


def _thrust(r: random.Random, shaft: str, faults: tuple[str, ...]) -> Thrust:
    least = round(r.uniform(0.05, 0.1), 2)
    most = round(least + r.uniform(0.1, 0.2), 2)
    play = r.uniform(least + 0.03, most - 0.03)
    if shaft == "cam" and "tight-play" in faults:
        play = least - r.uniform(0.025, 0.045)
    if shaft == "cam" and "loose-play" in faults:
        play = most + r.uniform(0.04, 0.2)
    way = r.choice(("shims", "spacer", "faces"))
    stock = tuple(sorted({round(r.uniform(0.05, 0.5), 2) for _ in range(9)}))
    return Thrust(play, r.uniform(0.6, 1.4), least, most, way, stock, round(r.uniform(3.5, 5), 2))


def _mesh(r: random.Random, faults: tuple[str, ...], chain: bool) -> Mesh:
    teeth = r.choice((18, 20, 21, 22, 24, 27, 30))
    least, most = 0.06, round(r.uniform(0.18, 0.24), 2)
    ecc = r.uniform(0.005, 0.02)
    backlash = r.uniform(least + 0.04, most - 0.04)
    if "tight-place" in faults:
        ecc, backlash = r.uniform(0.14, 0.2), least + r.uniform(0.02, 0.04)
    if "loose-mesh" in faults:
        backlash = most + r.uniform(0.04, 0.1)
    idler = r.choice((0, 0, 0, 33, 41)) if not chain else 0
    return Mesh(
        crank_teeth=teeth,
        cam_teeth=2 * teeth,
        idler_teeth=idler,
        chain=chain,
        backlash_mm=backlash,
        least_mm=least,
        most_mm=most,
        pitch_radius_mm=round(2 * teeth * r.uniform(1.0, 1.6), 1),
        cam_gear=Shaft(ecc, r.uniform(0, 360)),
        crank_gear=Shaft(r.uniform(0.002, 0.01), r.uniform(0, 360)),
    )


def _fit(r: random.Random) -> Fit:
    interference = r.choice((0.0, 0.0, round(r.uniform(0.02, 0.05), 3)))
    bolts = r.choice((0, 1, 1, 3))
    return Fit(
        bore_mm=round(r.uniform(25, 45)),
        interference_mm=interference,
        bolts=bolts,
        stages=(20.0, 40.0) if r.random() < 0.5 else (25.0,),
        keyed=True,
    )


def _valves(r: random.Random, order: tuple[int, ...], faults: tuple[str, ...]) -> tuple[Valve, ...]:
    angle = r.choice((0.0, 10.0, 15.0))
    struck = r.choice(order)
    found = []
    for cylinder in sorted(order):
        for kind in ("intake", "exhaust"):
            gap = r.uniform(7.5, 10)
            if "valve-near" in faults and cylinder == order[0]:
                gap = r.uniform(2.0, 2.6)
            lash = 0.0
            room = r.uniform(2.1, 3.5)
            if "lobe-rubs" in faults and cylinder == struck:
                room = r.uniform(0.6, 1.3)
            found.append(Valve(cylinder, kind, lash, gap, angle, room))
    return tuple(found)


def _sprockets(r: random.Random, faults: tuple[str, ...]) -> Sprockets:
    driver = r.uniform(20, 40)
    off = r.choice((-1, 1)) * r.uniform(0.4, 1.0) if "out-of-line" in faults else r.uniform(-0.15, 0.15)
    return Sprockets(driver, driver + off)


def _adjuster(r: random.Random, faults: tuple[str, ...]) -> Adjuster:
    kind = r.choice(("choices", "slot"))
    steps = range(-12, 13, 2) if kind == "choices" else range(-12, 13)
    positions = {("0" if k == 0 else f"{'A' if k > 0 else 'R'}{abs(k)}"): float(k) for k in steps}
    return Adjuster(kind, positions, "0", "cam-degrees" in faults, kind == "choices")

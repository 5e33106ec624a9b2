"""What is said at gear train."""

from uranograph.bench.finding import Said

FOUND = {
    "no-gears": Said("No gears yet.", next_step="Describe the gears or the chain between crank and cam: teeth first."),
    "half-speed": Said("The cam turns at half speed, {value} the crank. {back}", "In: half speed", "See the marks."),
    "not-half-speed": Said(
        "“{cam}” turns at {cam_speed_ratio:.4f} of the crank's speed. {spoiler}",
        "Out: not half speed",
        "Count the teeth again.",
    ),
}
REFUSALS = {
    "mark-past-teeth": "“{name}” has {teeth} teeth: counted from its first mark, 0 to {most}.",
}

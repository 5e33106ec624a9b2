"""What one comes to the bench for, and the stations it takes."""

from uranograph.bench.ways import Way, way_form

WHOLE = Way("whole", "The whole build")
WAYS = {
    way.key: way
    for way in (
        Way("degree", "Degree a cam", ("engine", "card", "wheel", "tdc", "degree", "adjust")),
        Way("marks", "Align marks", ("engine", "by-eye", "train", "marks")),
        Way("gear", "Fit a gear", ("engine", "gear-fit", "lobe-room", "by-eye")),
        Way(
            "play",
            "Measure play and backlash",
            ("engine", "runout", "choice", "end-play", "setting", "train", "backlash"),
        ),
        WHOLE,
        Way("wrong", "Find out what is wrong", ("engine", "by-eye", "train", "marks", "wheel", "tdc", "degree")),
    )
}
FORM = way_form(WAYS, WHOLE)

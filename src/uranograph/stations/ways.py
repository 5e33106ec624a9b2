"""What one comes to the bench for, and the stations it takes."""

from uranograph.bench.ways import Way, way_form

RECEIVE, FIT = ("engine", "card"), ("runout", "choice", "end-play", "setting", "gear-fit", "lobe-room")
MARK, DEGREE = ("train", "marks", "backlash", "sprocket"), ("wheel", "tdc", "degree", "adjust")
PROVE, CLOSE = ("piston-valve", "turn-over", "valve-lash"), ("lock-up",)
# Marks are looked at by eye or by their gears: a whole build has its gears described, and by eye stands under the fold.
WHOLE = Way("whole", "The whole build", (*RECEIVE, *FIT, *MARK, *DEGREE, *PROVE, *CLOSE))
WAYS = {
    way.key: way
    for way in (
        Way("degree", "Degree a cam", (*RECEIVE, *DEGREE, *PROVE, *CLOSE)),
        Way("marks", "Align marks", ("engine", "by-eye", "train", "marks")),
        Way("gear", "Fit a gear", ("engine", "gear-fit", "lobe-room", "by-eye")),
        Way("play", "Measure play and backlash", ("engine", *FIT[:4], "train", "backlash")),
        WHOLE,
        Way("change", "Plan a cam change", (*RECEIVE, "change-plan", *DEGREE, *PROVE, *CLOSE)),
        Way(
            "wrong", "Find out what is wrong", ("engine", "wrong", "by-eye", "train", "marks", "wheel", "tdc", "degree")
        ),
    )
}
FORM = way_form(WAYS, WHOLE)

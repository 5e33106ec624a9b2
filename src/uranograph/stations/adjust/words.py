"""What is said at adjust."""

from uranograph.bench.finding import Said

FOUND = {
    "drive-missing": Said("What this drive offers is not described yet.", next_step="Describe its adjusters."),
    "moved": Said("The cam was moved. Degree it again to see what it did.", next_step="Measure at this position."),
    "not-degreed": Said("Degree the cam first.", next_step="Measure at this position."),
    "no-move-needed": Said(
        "Within tolerance; nothing needs to move.", "In: no move is needed", "Print the build sheet."
    ),
    "not-sure-enough": Said("Degreeing cannot tell yet where the cam stands. {best}", "Cannot tell yet", "{step}"),
    "position-cures": Said("{best}", "A position cures it", "Choose a position, move it, degree again."),
    "no-position-cures": Said(
        "{best}", "Out: no position brings it within tolerance", "Choose a position, move it, degree again."
    ),
    "drive-cannot-be": Said("{why}", "Cannot tell", "Describe the drive again."),
}
REFUSALS = {
    "chain-too-long": "A chain “{typed}” % longer is not likely: most are worn out at 2 %.",
    "not-a-label-with-shift": "“{typed}” is no label with a shift. Type it such as A4: 4, with commas between.",
    "label-twice": "“{typed}” stands twice.",
    "position-not-offered": "This position is not offered any more: look at the list again.",
    "nothing-to-try": "This leaves everything as it is: there is nothing to try.",
    "position-missing": "Choose one of the positions listed.",
}

"""What is said at adjust."""

REFUSALS = {
    "chain-too-long": "A chain “{typed}” % longer is not likely: most are worn out at 2 %.",
    "not-a-label-with-shift": "“{typed}” is no label with a shift. Type it such as A4: 4, with commas between.",
    "label-twice": "“{typed}” stands twice.",
    "position-not-offered": "This position is not offered any more: look at the list again.",
    "nothing-to-try": "This leaves everything as it is: there is nothing to try.",
    "position-missing": "Choose one of the positions listed.",
}

"""Core results drawn as SVG. Grammar everywhere: hollow and dashed is the card, solid is measured, halo is doubt."""

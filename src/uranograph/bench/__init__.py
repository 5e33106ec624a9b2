"""The stations: what to read, what a set of readings means, what to do next."""

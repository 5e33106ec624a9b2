"""Bayesian evidence of all readings: one model of engine and set-up, and faults weighed against it."""

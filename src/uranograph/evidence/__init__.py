"""What all readings together say: one model of engine and set-up, and faults weighed against it."""

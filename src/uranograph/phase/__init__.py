"""Where the cam stands: what each method gives, the judgment of all of them, the reading to take next, and what can be done."""

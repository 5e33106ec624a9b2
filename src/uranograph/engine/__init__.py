"""Facts of the engine that every station asks for: a view of the job in, a dataclass out."""

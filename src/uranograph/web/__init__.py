"""Pages and the machine interface: parse, call, render."""

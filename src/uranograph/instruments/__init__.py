"""Lines of gauges, encoders and thermometers: what they say, whether they still say it, and stand-ins for them."""

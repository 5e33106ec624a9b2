"""What is said at wheel."""

REFUSALS = {
    "not-a-wheel-division": "“{typed}” is no division a wheel has. It is usually 1 degree.",
    "not-a-dial-division": "“{typed}” is no division a dial has. It is usually 0.001 in or 0.01 mm.",
    "no-such-side": "“{side}” is no side a wheel has.",
    "wheel-without-sides": "“{typed}”: a {scale} wheel has no sides. Type the number alone.",
}

"""Phase of the cam: results by method, judgment, next reading, and available corrections."""

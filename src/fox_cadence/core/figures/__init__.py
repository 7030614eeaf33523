"""Drawn characters that speak the lines of a role: shapes, mouths, gestures."""

"""Fox Cadence times narration to picture."""

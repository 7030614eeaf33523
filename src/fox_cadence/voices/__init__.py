"""Voices: engines behind one small protocol, each in a process of its own, and the takes they make."""

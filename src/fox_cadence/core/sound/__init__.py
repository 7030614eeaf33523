"""What is heard beside the voices, and how all of it is brought together: beds, spot effects, the mix."""

"""What makers of the application run: measurements, pictures, tables."""

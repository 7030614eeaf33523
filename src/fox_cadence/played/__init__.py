"""Music and sounds played by our own code: the shipped beds and spot effects of the shelf of sound."""

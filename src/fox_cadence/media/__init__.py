"""Media: probing, proxies, sound, rendering and measuring. All use of PyAV and Skia."""

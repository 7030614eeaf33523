"""The application in the browser: pages, the JSON they use, media."""

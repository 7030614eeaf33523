"""What the pages are told: the shapes of it, how a project is put into them, and what has changed since."""

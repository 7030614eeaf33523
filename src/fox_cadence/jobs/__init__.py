"""Long work behind one small interface: submit, progress, cancel."""

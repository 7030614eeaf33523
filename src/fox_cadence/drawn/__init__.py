"""Pictures drawn by our own code: the shipped clips of the shelf, backgrounds and pictures to lay over a
shot."""

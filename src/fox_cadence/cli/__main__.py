"""`python -m fox_cadence.cli` is the same as `fox-cadence`."""

import sys

from fox_cadence.cli import main

if __name__ == "__main__":
    sys.exit(main())

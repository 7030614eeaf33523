"""The application as tests serve it: takes are looked for among those that earlier runs made."""

import sys

from fox_cadence.cli import main
from tests.kept_takes import keep_takes

if __name__ == "__main__":
    keep_takes()
    sys.exit(main())

"""Looks for known weaknesses in the locked dependencies (PyPI's advisories, by pip-audit). Ends with 1 if it
finds any.

Where the advisories can't be fetched it says so and ends with 0: that proves nothing, and is not called a
proof.
"""

import json
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
LOCKS = ("requirements.lock", "requirements-dev.lock")


def main() -> int:
    command = [sys.executable, "-m", "pip_audit", "--disable-pip", "--require-hashes", "--format", "json"]
    for lock in LOCKS:
        command += ["-r", str(ROOT / lock)]
    try:
        ran = subprocess.run(command, capture_output=True, text=True, timeout=300, check=False)
        found = json.loads(ran.stdout)["dependencies"]
    except (subprocess.TimeoutExpired, ValueError, KeyError):
        print("NOT AUDITED: the advisories for the dependencies could not be fetched.")
        return 0
    asked = [each for each in found if "skip_reason" not in each]
    weak = [each for each in asked if each["vulns"]]
    for each in weak:
        for one in each["vulns"]:
            cure = f", mended in {', '.join(one['fix_versions'])}" if one["fix_versions"] else ""
            print(f"{each['name']} {each['version']}: {one['id']}{cure}")
    if len(asked) < len(found):
        left = len(found) - len(asked)
        print(f"NOT AUDITED: {left} of {len(found)} dependencies; their advisories can't be fetched here.")
    elif not weak:
        print(f"{len(found)} dependencies, no known weakness.")
    return 1 if weak else 0


if __name__ == "__main__":
    sys.exit(main())

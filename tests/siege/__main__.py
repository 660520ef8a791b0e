"""Throw as much as one likes: ``python -m tests.siege kills|requests|files NUMBER``."""

import sys
import time

from tests.siege import files, kills, requests

LONGEST = 2000
"""Most that one file or request may take on an idle machine, ms."""

MOST_MEMORY = 300
"""Most that reading a file may take on top of the program, MB."""

SIEGES = {"kills": kills.killed, "requests": requests.thrown, "files": files.read_all}

if __name__ == "__main__":
    name, number = sys.argv[1], int(sys.argv[2])
    begun = time.monotonic()
    seen = SIEGES[name](number)
    for what, count in sorted(seen.items()):
        print(f"{what:24} {count:,}")
    print(f"{number:,} {name} in {time.monotonic() - begun:.0f} s")
    if seen["longest, ms"] > LONGEST or seen["memory, MB"] > MOST_MEMORY:
        sys.exit("That is more than it may be.")

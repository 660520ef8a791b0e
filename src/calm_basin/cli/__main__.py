"""``python -m calm_basin.cli``."""

from calm_basin.cli import main

if __name__ == "__main__":
    main()

"""The walls: what stands behind them, what is fixed to them, and how they are boarded."""

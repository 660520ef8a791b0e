"""Who can get in and turn: doors and spaces held against the rules, on the computed floor."""

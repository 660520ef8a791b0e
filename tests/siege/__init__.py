"""What is thrown at the store, the server and the readers by the thousand: a few in each run of the
tests, as many as one likes by hand.

    python -m tests.siege kills 1000
    python -m tests.siege requests 100000
    python -m tests.siege files 10000
"""

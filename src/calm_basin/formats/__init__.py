"""Documents that go in and come out."""

"""One site against its competitors: what is measured, how sure it is, who stands where."""

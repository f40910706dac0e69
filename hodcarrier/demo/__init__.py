"""The demo: a made-up agency, a simulated web behind real protocols, a mail sink, and a history of audits."""

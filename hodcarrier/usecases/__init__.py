"""The use cases: what the desk can do, each in one transaction, with clock and mailer passed in."""

"""Reports and tables from values: HTML, PDF, CSV, SARIF. No register, no network."""

"""Review sheets: what a person looks at, and what came of it."""

"""The asynchronous crawl and its worker process."""

"""What changes a show, with its rules: core and store, and nothing of the web. Routes call it, a few lines each."""

"""How a site hangs together: how links flow through it, which pages form a group, and its folders."""

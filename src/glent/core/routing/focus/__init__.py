"""Focus, tab order, directions and the stack of modals."""

"""Demo data: made up, in one scenario, the harbour office of Quillhaven Ferries."""

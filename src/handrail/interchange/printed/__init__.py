"""What is read on paper: text, tables and pictures on pages with the firm's block, as PDF."""

"""Texts of the program and the languages they are shown in: `text.tr` marks a text where it arises,
`translate.translate` shows it."""

"""Words on the screen: their styles, how they are set, where they stand, how they move.

Text is shaped with HarfBuzz; a drawing holds the outlines of each word in pixels of the frame. Nobody lays
text out a second time: the page shows the drawing as SVG and the export paints the same outlines.
"""

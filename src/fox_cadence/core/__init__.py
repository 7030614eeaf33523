"""The pure core: time, the objects of a project, the fit, captions, lettering and mix curves.

Nothing in here touches files, a database, the network, a clock or chance.
"""

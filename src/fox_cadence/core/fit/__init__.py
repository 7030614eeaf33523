"""The fit: which starts, paces, pauses and cuts keep speech and picture together with the least harm.

`problem` states what is known, `program` writes it as matrices, `solver` hands them to Clarabel, `frames`
brings the answer to whole frames, `explain` says why, `captions` sets the caption times, `proposal` joins
them.
"""

"""The order of power: what acts on the channels after looks and masters made them, weakest first.

One list of stages, each with `apply` (all channels of a frame) and `explain` (one channel). Engine, preview, why and
the pictures of what was before a stage run this list and no other. A new stage is a file here and a line in
`stages_of`.
"""

from heliograph.power.chain import Chain, Step
from heliograph.power.marking import marks_of
from heliograph.power.order import HAND, set_by_lines, stages_of
from heliograph.power.stage import Stage

__all__ = ["HAND", "Chain", "Stage", "Step", "marks_of", "set_by_lines", "stages_of"]

"""The kinds of work there are, in the order that a job tells them."""

from layup.bag.kind import BAGS
from layup.coats.kind import COATS
from layup.finish.kind import FINISHES
from layup.infusion.kind import INFUSIONS
from layup.joints.kind import JOINTS
from layup.kind import KindOfWork
from layup.laminate.kind import LAMINATE
from layup.pours.kind import POURS
from layup.stiffness.kind import STIFFENING

KINDS: tuple[KindOfWork, ...] = (LAMINATE, JOINTS, POURS, COATS, BAGS, INFUSIONS, STIFFENING, FINISHES)

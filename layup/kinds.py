"""The kinds of work there are, in the order that a job tells them."""

from layup.joints.kind import JOINTS
from layup.kind import KindOfWork
from layup.laminate.kind import LAMINATE

KINDS: tuple[KindOfWork, ...] = (LAMINATE, JOINTS)

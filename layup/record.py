"""What every piece of an answer is made of."""

from pydantic import BaseModel, ConfigDict


class Record(BaseModel):
    """Plain and frozen: what is found is not changed after."""

    model_config = ConfigDict(frozen=True)

"""One thread for linear algebra: the product shares its work over processors itself."""

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # read when numpy is first imported

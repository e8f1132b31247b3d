"""Planes of samples: their layout, their colour, and resampling them.

Pixels stay planar Y'CbCr from decoder to encoder. Everything done to them here is linear.
"""

import cv2
from threadpoolctl import threadpool_limits

# The pieces worked on here are small and run on threads of our own; more threads inside each only cost time.
threadpool_limits(1, user_api="blas")
cv2.setNumThreads(1)

import numpy as np

from cooper.gears.involute import inv, inverse_inv


def test_inverse_of_the_involute_function_over_nineteen_decades():
    y = np.concatenate((np.logspace(-12, 6, 4001), -np.logspace(-12, 6, 401), [0.0]))
    alpha = inverse_inv(y)
    t = np.tan(alpha)
    # Near 90 degrees tan(alpha) itself is ill-conditioned, so the residual there is measured on the angle.
    small = np.abs(y) < 100
    series = np.where(np.abs(t) < 0.02, t**3 / 3 - t**5 / 5 + t**7 / 7, inv(alpha))
    assert np.all(np.abs(series[small] - y[small]) <= 1e-11 * np.maximum(np.abs(y[small]), 1e-14))
    assert np.all(
        np.abs(alpha[~small] - np.sign(y[~small]) * np.arctan(np.abs(y[~small]) + np.abs(alpha[~small]))) < 1e-12
    )

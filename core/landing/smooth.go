package landing

// smooth rises from 0 to 1 without a corner.
func smooth(x float64) float64 {
	x = min(max(x, 0), 1)
	return x * x * (3 - 2*x)
}

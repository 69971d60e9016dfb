package measure

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// tuning is Tukey's constant for 95 % efficiency on clean data.
const tuning = 4.685

// residual gives a pair's deviation in standard deviations, and σ in model mm.
func residual(p Pair, theta float64) (u, sigma float64) {
	plus := p.Kit.Plus
	if plus == 0 {
		plus = float64(CaliperPlus)
	}
	sigma = math.Sqrt(plus*plus + p.RealPlus*theta*p.RealPlus*theta + float64(MouldPlus*MouldPlus))
	return (p.Kit.MM - float64(p.Real)*theta) / sigma, sigma
}

func biweight(u float64) float64 {
	v := u / tuning
	if math.Abs(v) >= 1 {
		return 0
	}
	return (1 - v*v) * (1 - v*v)
}

// implied gives 1/N.
func implied(pairs []Pair, robust bool) float64 {
	best, least := 0.0, math.Inf(1)
	for _, start := range pairs {
		theta := start.Kit.MM / float64(start.Real)
		for range 100 {
			next := reweighted(pairs, theta, robust)
			done := math.Abs(next-theta) <= 1e-13*theta
			theta = next
			if done {
				break
			}
		}
		cost := 0.0
		for _, p := range pairs {
			u, _ := residual(p, theta)
			v := min(1, (u/tuning)*(u/tuning))
			cost += 1 - (1-v)*(1-v)*(1-v)
		}
		if cost < least-1e-12 {
			best, least = theta, cost
		}
	}
	return best
}

// reweighted is one step of iteratively reweighted least squares; where every pair
// has weight 0 it stays.
func reweighted(pairs []Pair, theta float64, robust bool) float64 {
	top, bottom := 0.0, 0.0
	for _, p := range pairs {
		u, sigma := residual(p, theta)
		w := 1 / (sigma * sigma)
		if robust {
			w *= biweight(u)
		}
		top += w * float64(p.Real) * p.Kit.MM
		bottom += w * float64(p.Real) * float64(p.Real)
	}
	if bottom == 0 {
		return theta
	}
	return top / bottom
}

// interval gives the 95 % bounds of N, or zeros where one pair leaves none.
func interval(pairs []Pair, theta float64, robust bool) (low, high float64) {
	slope, spread, stated, inliers := 0.0, 0.0, 0.0, 0.0
	for _, p := range pairs {
		u, sigma := residual(p, theta)
		x := float64(p.Real) / sigma
		v := (u / tuning) * (u / tuning)
		if !robust {
			v = 0
		}
		if v >= 1 {
			continue
		}
		inliers++
		psi := u * (1 - v) * (1 - v)
		slope += (1 - v) * (1 - 5*v) * x * x
		spread += psi * psi * x * x
		stated += x * x
	}
	if inliers < 2 {
		return 0, 0
	}
	half := normal95 / math.Sqrt(stated)
	if slope > 0 {
		t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: inliers - 1}.Quantile(0.975)
		half = max(half, t*math.Sqrt(spread*inliers/(inliers-1))/slope)
	}
	if half >= theta {
		return 0, 0 // so wide that it says nothing
	}
	return 1 / (theta + half), 1 / (theta - half)
}

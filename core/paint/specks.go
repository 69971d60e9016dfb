package paint

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/measure"

	"gonum.org/v1/gonum/mat"
)

// Patch is a piece of a photograph, row by row from its upper left.
type Patch struct {
	Wide  int
	Light []Photographed
	Pixel float64 // side of one, mm on the model
}

// Specks are the marks on a patch: what stands out of its ground.
type Specks struct {
	Count  int
	CM2    float64 // of the patch
	Each   float64 // on a cm²
	Share  float64 // of the patch that they cover
	Middle float64 // median of their diameters, mm on the model
}

const (
	// leastSpeckMM is the smallest mark that is worked, mm on the model.
	leastSpeckMM = 0.1
	// standsOut is by how much the light of a mark differs from its ground's, as a logarithm.
	standsOut = 0.12
	// unlike is how far light lies from a plane, as a logarithm, where it falls on more than one colour.
	unlike = 0.15
	// coarsest is the largest pixel that shows marks, mm on the model.
	coarsest = 0.25
)

// CountSpecks finds the marks of a patch that lies on one colour. Light falls off along the patch as a
// plane in the logarithm; what differs from it by more than five times the median of what is left, and by
// an eighth at least, is a mark; touching pixels are one. Refused: patches too coarse, too small, or of
// which marks cover half.
func CountSpecks(p Patch) (out Specks, err error) {
	n := len(p.Light)
	if p.Wide < 20 || n/max(p.Wide, 1) < 20 {
		return out, measure.Refuse(
			"patch",
			"fewer than 20 pixels along a side",
			"mark a larger patch, or photograph it from nearer",
		)
	}
	if !(p.Pixel > 0 && p.Pixel <= coarsest) {
		return out, measure.Refuse("patch", fmt.Sprintf("a pixel is %.2f mm wide: marks cannot be told", p.Pixel),
			"photograph it from nearer")
	}
	off := p.standing()
	if off == nil {
		return out, measure.Refuse("patch", "marks cover half of it, or it lies on two colours", "mark a patch on one colour")
	}
	out.CM2 = float64(n) * p.Pixel * p.Pixel / 100
	least := max(3, int(math.Pi/4*leastSpeckMM*leastSpeckMM/(p.Pixel*p.Pixel)))
	var wide []float64
	covered := 0
	for _, size := range blobs(off, p.Wide) {
		if size >= least {
			covered += size
			wide = append(wide, 2*math.Sqrt(float64(size)/math.Pi)*p.Pixel)
		}
	}
	out.Count, out.Share = len(wide), float64(covered)/float64(n)
	out.Each = float64(out.Count) / out.CM2
	if slices.Sort(wide); len(wide) > 0 {
		out.Middle = wide[len(wide)/2]
	}
	return out, nil
}

// standing tells which pixels stand out of the ground; none where nothing is ground.
func (p Patch) standing() []bool {
	n := len(p.Light)
	off := make([]bool, n)
	far := make([]float64, n)
	logs := make([][3]float64, n)
	for k, v := range p.Light {
		for c := range v {
			logs[k][c] = math.Log(max(v[c], 1e-4))
		}
	}
	for range 6 { // marks found are left out of the plane
		var ata, atb [9]float64
		free := 0
		for k, v := range logs {
			if off[k] {
				continue
			}
			free++
			f := p.terms(k)
			for i := range f {
				for j := range f {
					ata[3*i+j] += f[i] * f[j]
					atb[3*i+j] += f[i] * v[j]
				}
			}
		}
		var plane mat.Dense
		if 2*free < n || plane.Solve(mat.NewDense(3, 3, ata[:]), mat.NewDense(3, 3, atb[:])) != nil {
			return nil
		}
		var by [3][3]float64
		for c := range by {
			by[c] = [3]float64{plane.At(0, c), plane.At(1, c), plane.At(2, c)}
		}
		for k, v := range logs {
			f := p.terms(k)
			sum := 0.0
			for c, b := range by {
				d := v[c] - f[0]*b[0] - f[1]*b[1] - f[2]*b[2]
				sum += d * d / 3
			}
			far[k] = math.Sqrt(sum)
		}
		middle := slices.Sorted(slices.Values(far))[n/2]
		if middle > unlike {
			return nil
		}
		for k, d := range far {
			off[k] = d > max(standsOut, 5*middle)
		}
	}
	return off
}

func (p Patch) terms(k int) [3]float64 {
	return [3]float64{1, float64(k%p.Wide)/float64(p.Wide) - 0.5, float64(k/p.Wide)/float64(len(p.Light)/p.Wide) - 0.5}
}

// blobs are the sizes of what hangs together by sides or corners.
func blobs(on []bool, wide int) (sizes []int) {
	seen := make([]bool, len(on))
	var stack []int
	for start := range on {
		if !on[start] || seen[start] {
			continue
		}
		seen[start] = true
		stack = append(stack[:0], start)
		size := 0
		for len(stack) > 0 {
			k := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			size++
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					x, to := k%wide+dx, k+dy*wide+dx
					if x >= 0 && x < wide && to >= 0 && to < len(on) && on[to] && !seen[to] {
						seen[to] = true
						stack = append(stack, to)
					}
				}
			}
		}
		sizes = append(sizes, size)
	}
	return sizes
}

// CompareSpecks tells in words how the marks of both sides differ; chance alone scatters a count by its root.
func CompareSpecks(left, right Specks) string {
	gap := left.Each - right.Each
	chance := 2 * math.Sqrt(float64(left.Count)/(left.CM2*left.CM2)+float64(right.Count)/(right.CM2*right.CM2))
	if math.Abs(gap) <= chance {
		return fmt.Sprintf(
			"Marks: %.0f to the cm² left, %.0f right; chance alone makes as much of a difference.",
			left.Each,
			right.Each,
		)
	}
	name, few, many := "right", right.Each, left.Each
	if gap < 0 {
		name, few, many = "left", left.Each, right.Each
	}
	return fmt.Sprintf(
		"Marks: %.0f to the cm² left, %.0f right: %s has %.0f %% fewer.",
		left.Each,
		right.Each,
		name,
		100*(1-few/many),
	)
}

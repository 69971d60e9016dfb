package colour

import (
	"embed"
	"fmt"
	"math"
	"sync"

	"cinderpath/core/table"
)

//go:embed tables/*.csv
var tableFiles embed.FS

// Count of the bands that reflectance is counted in: 380 to 730 nm by 10.
const Count = 36

// Bands is a value for each band: a reflectance 0 to 1, or what a paint does there.
type Bands [Count]float64

// XYZ is a colour of the 2° observer, Y = 1 for a surface that reflects all light.
type XYZ [3]float64

// Lab is a colour in CIELAB against the white of the tables.
type Lab [3]float64

type matrix [3][3]float64

func (m matrix) times(v [3]float64) (out [3]float64) {
	for i, row := range m {
		out[i] = row[0]*v[0] + row[1]*v[1] + row[2]*v[2]
	}
	return out
}

func (m matrix) inverse() (out matrix) {
	det := 0.0
	for i := range 3 {
		for k := range 3 {
			a, b, c, d := (i+1)%3, (i+2)%3, (k+1)%3, (k+2)%3
			out[k][i] = m[a][c]*m[b][d] - m[a][d]*m[b][c]
		}
		det += m[0][i] * out[i][0]
	}
	for i := range 3 {
		for k := range 3 {
			out[i][k] /= det
		}
	}
	return out
}

// observer is what each band adds to XYZ.
var observer = sync.OnceValue(func() *[3]Bands {
	w := &[3]Bands{}
	eye, light := table.Read(tableFiles, "cie1931_2deg_10nm"), table.Read(tableFiles, "d65_10nm")
	if len(eye) != Count || len(light) != Count {
		panic(fmt.Sprintf("tables of %d and %d bands, not %d", len(eye), len(light), Count))
	}
	sum := 0.0
	for i := range Count {
		sum += light[i].Number("relative_power") * eye[i].Number("ybar")
	}
	for k, column := range []string{"xbar", "ybar", "zbar"} {
		for i := range Count {
			w[k][i] = light[i].Number("relative_power") * eye[i].Number(column) / sum
		}
	}
	return w
})

// Observer gives what each band adds to X, Y and Z.
func Observer() [3]Bands { return *observer() }

// XYZ of a reflectance.
func (r Bands) XYZ() (out XYZ) {
	w := observer()
	for i := range r {
		v := r[i]
		out[0] += w[0][i] * v
		out[1] += w[1][i] * v
		out[2] += w[2][i] * v
	}
	return out
}

// White is the colour of what reflects all light.
func White() XYZ { return white() }

var white = sync.OnceValue(func() XYZ {
	var all Bands
	for i := range all {
		all[i] = 1
	}
	return all.XYZ()
})

// primaries are the chromaticities x, y of red, green and blue (IEC 61966-2-1).
var primaries = [3][2]float64{{0.64, 0.33}, {0.30, 0.60}, {0.15, 0.06}}

// rgbToXYZ scales each primary so that 1, 1, 1 gives the white of the tables.
var rgbToXYZ = sync.OnceValue(func() (m matrix) {
	for k, p := range primaries {
		m[0][k], m[1][k], m[2][k] = p[0]/p[1], 1, (1-p[0]-p[1])/p[1]
	}
	scale := m.inverse().times(White())
	for i := range 3 {
		for k := range 3 {
			m[i][k] *= scale[k]
		}
	}
	return m
})

var xyzToRGB = sync.OnceValue(func() matrix { return rgbToXYZ().inverse() })

// Linear is the light of a colour in the channels of sRGB; outside 0 to 1 where these
// cannot show it.
func (c XYZ) Linear() [3]float64 { return xyzToRGB().times(c) }

// RGB is the nearest swatch, cut off channel by channel where sRGB cannot show the colour,
// which beyond tells.
func (c XYZ) RGB() (out RGB, beyond bool) {
	for k, v := range c.Linear() {
		step := Encode(v) * 255
		beyond = beyond || step < -0.5 || step >= 255.5
		out[k] = uint8(math.Floor(min(max(step, 0), 255) + 0.5))
	}
	return out, beyond
}

const labEpsilon, labKappa = 216.0 / 24389, 24389.0 / 27

// Lab of a colour.
func (c XYZ) Lab() Lab {
	w := White()
	var f [3]float64
	for k, v := range c {
		if t := v / w[k]; t > labEpsilon {
			f[k] = math.Cbrt(t)
		} else {
			f[k] = (labKappa*t + 16) / 116
		}
	}
	return Lab{116*f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])}
}

// XYZ of a colour.
func (c Lab) XYZ() (out XYZ) {
	w := White()
	y := (c[0] + 16) / 116
	for k, f := range [3]float64{y + c[1]/500, y, y - c[2]/200} {
		if t := f * f * f; t > labEpsilon {
			out[k] = t * w[k]
		} else {
			out[k] = (116*f - 16) / labKappa * w[k]
		}
	}
	return out
}

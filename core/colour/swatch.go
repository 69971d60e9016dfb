package colour

import (
	"fmt"
	"math"
	"strconv"
)

// RGB is a swatch as the eye sees it, in the steps of sRGB.
type RGB [3]uint8

// Parse reads a swatch written like #5f6b4e.
func Parse(s string) (RGB, error) {
	n, err := strconv.ParseUint(trimmed(s), 16, 32)
	if err != nil {
		return RGB{}, fmt.Errorf("%q is not a swatch; write it like #5f6b4e", s)
	}
	return RGB{uint8(n >> 16), uint8(n >> 8), uint8(n)}, nil
}

// trimmed takes the # off what can be a swatch; of anything else it makes nothing.
func trimmed(s string) string {
	if len(s) != 7 || s[0] != '#' || s[1] == '+' {
		return ""
	}
	return s[1:]
}

// Hex writes a swatch.
func (c RGB) Hex() string { return fmt.Sprintf("#%02x%02x%02x", c[0], c[1], c[2]) }

// Of is a swatch that was checked when it was typed; grey where it cannot be read.
func Of(hex string) RGB {
	c, err := Parse(hex)
	if err != nil {
		return RGB{128, 128, 128}
	}
	return c
}

// Linear is the light of a swatch, 0 to 1 in each channel.
func (c RGB) Linear() (out [3]float64) {
	for k, v := range c {
		out[k] = linear(float64(v) / 255)
	}
	return out
}

func linear(v float64) float64 {
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

// Encode is a channel's light, 0 to 1, as sRGB writes it, 0 to 1.
func Encode(light float64) float64 {
	if light <= 0.0031308 {
		return light * 12.92
	}
	return 1.055*math.Pow(light, 1/2.4) - 0.055
}

// OfLight is the colour of light in the channels of sRGB.
func OfLight(light [3]float64) XYZ { return rgbToXYZ().times(light) }

// XYZ of a swatch.
func (c RGB) XYZ() XYZ { return OfLight(c.Linear()) }

// Lab of a swatch.
func (c RGB) Lab() Lab { return c.XYZ().Lab() }

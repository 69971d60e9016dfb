package path

// dice are thrown the same way on every machine (Steele, Lea and Flood's SplitMix).
type dice struct{ state uint64 }

func (d *dice) next() uint64 {
	d.state += 0x9e3779b97f4a7c15
	z := d.state
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return z ^ z>>31
}

// IntN is a whole number from 0 to n − 1.
func (d *dice) IntN(n int) int { return int(d.next() % uint64(n)) }

// Float64 lies in [0, 1).
func (d *dice) Float64() float64 { return float64(d.next()>>11) / (1 << 53) }

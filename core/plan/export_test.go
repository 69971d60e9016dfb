package plan

// Remembered tells how much is kept.
func (d *Deriver) Remembered() (bytes int64, stages int) {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.bytes, len(d.kept)
}

// Made are the bytes that were ever remembered.
func (d *Deriver) Made() int64 { return d.made.Load() }

// Computed counts how often each stage was computed.
func (d *Deriver) Computed() map[string]int {
	d.mu.Lock()
	defer d.mu.Unlock()
	out := map[string]int{}
	for name, n := range d.computed {
		out[name] = n
	}
	return out
}

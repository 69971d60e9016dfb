package document

// Edited makes one edit without checking the whole.
func Edited(b Build, e Edit, now Standing) (Build, error) {
	err := ops[e.Op](&b, e, means{func() string { return "made" }, now})
	return b, err
}

package document

// Edited makes one edit without checking the whole.
func Edited(b Build, e Edit, now Standing) (Build, error) {
	err := ops[e.Op](&b, e, means{nil, now})
	return b, err
}

"""Who comes when: orders of operations over pieces, tools and angles, their cost, and the best of them."""

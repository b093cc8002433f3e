//! Stills and cards, held against what is known of light. One program, so that it is built and linked once.

mod a_channel_is_in_the_still;
mod a_moving_ground_is_in_the_still;
mod a_still_is_repeatable;
mod cards;
mod leaf_is_open_to_the_sky;
mod leaves_flutter_in_the_still;
mod light_is_conserved;
mod rays_hit_what_is_there;
mod the_nap_shades;
